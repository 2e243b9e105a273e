<script lang="ts">
	import { glyphOf } from './glyphs';

	/** A small drawing of what a part looks like; the words beside it say the same. */
	let { find, kind }: { find: string; kind: string } = $props();
	const id = $props.id();
	const glyph = $derived(glyphOf(find, kind));
</script>

{#if glyph}
	<svg
		viewBox="-2 -2 100 68"
		class="h-14 w-20 shrink-0 wide:h-11 wide:w-16"
		aria-hidden="true"
		fill="none"
		stroke-linecap="round"
	>
		<defs>
			<pattern
				id="{id}-hatch"
				width="5"
				height="5"
				patternUnits="userSpaceOnUse"
				patternTransform="rotate(45)"
			>
				<line x1="0" y1="0" x2="0" y2="5" stroke="currentColor" stroke-width="2.2" />
			</pattern>
		</defs>
		<path d={glyph.shape} stroke="currentColor" stroke-width="1.8" stroke-linejoin="round" opacity="0.75" />
		{#if glyph.hatched}<path
				d={glyph.hatched}
				fill="url(#{id}-hatch)"
				stroke="currentColor"
				stroke-width="1"
			/>{/if}
		{#if glyph.strokes}<path
				d={glyph.strokes}
				stroke="currentColor"
				stroke-width="2.6"
				stroke-linejoin="round"
			/>{/if}
		{#each glyph.spots ?? [] as [x, y, r] (`${x} ${y}`)}<circle
				cx={x}
				cy={y}
				{r}
				fill="currentColor"
			/>{/each}
	</svg>
{/if}
