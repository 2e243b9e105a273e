<script lang="ts">
	import { pictureOf } from './pictures';

	/** A drawing of where people go wrong; its words are read aloud and stand in the step as well. */
	let { picture, star }: { picture: string; star: number[] } = $props();
	const drawn = $derived(pictureOf(picture, star));
</script>

{#if drawn}
	<svg
		viewBox="0 0 120 90"
		class="h-36 w-48 shrink-0 wide:h-40 wide:w-56"
		role="img"
		aria-label={drawn.words}
		fill="none"
	>
		{#if drawn.thin}<path d={drawn.thin} stroke="currentColor" stroke-width="1.4" />{/if}
		{#if drawn.thick}<path
				d={drawn.thick}
				stroke="currentColor"
				stroke-width="2"
				fill="currentColor"
				fill-opacity="0.22"
			/>{/if}
		{#if drawn.dashed}<path
				d={drawn.dashed}
				class="text-oxide"
				stroke="currentColor"
				stroke-width="1.8"
				stroke-dasharray="4 3"
			/>{/if}
		{#if drawn.filled}<path d={drawn.filled} fill="currentColor" />{/if}
		{#each drawn.says ?? [] as word (word.words + word.x)}
			<text
				x={word.x}
				y={word.y}
				text-anchor="middle"
				dominant-baseline="middle"
				fill="currentColor"
				class="font-mono text-[11px]">{word.words}</text
			>
		{/each}
	</svg>
{/if}
