<script lang="ts">
	import { lengthFigure, unitLabel } from '$lib/shown.svelte';
	import { num, nums } from '../drawn';

	/** A section through the seat: the ring that is pushed is filled, with the sleeve on it; the other is never touched. */
	let { picture }: { picture: Record<string, unknown> } = $props();
	const outer = $derived(picture.ring === 'outer');
	const [bore, outside] = $derived([num(picture, 'bore_mm') ?? 1, num(picture, 'outside_mm') ?? 2]);
	const sleeve = $derived(nums(picture, 'sleeve_mm'));
	const MIDDLE = 120;
	const scale = $derived(130 / outside);
	const half = (mm: number) => (mm / 2) * scale;
	const section = $derived(half(outside) - half(bore));
	const ringed = $derived(section * 0.3);
	/** A ring as its two cut faces. */
	const cut = (from: number, to: number, top: number, high: number) =>
		`M${MIDDLE + from} ${top} h${to - from} v${high} h${from - to} Z M${MIDDLE - to} ${top} h${to - from} v${high} h${from - to} Z`;
	const words = $derived(
		`${outer ? 'Into the housing: push on the outer ring' : 'Onto the shaft: push on the inner ring'}, by a sleeve of ` +
			`${lengthFigure(sleeve[0] ?? 0)} inside and ${lengthFigure(sleeve[1] ?? 0)} ${unitLabel('length')} outside`
	);
</script>

<svg viewBox="0 0 270 150" class="h-44 w-72 shrink-0" role="img" aria-label={words} fill="none">
	{#if outer}
		<path
			d={cut(half(outside), half(outside) + 24, 84, 56)}
			stroke="currentColor"
			fill="currentColor"
			fill-opacity="0.08"
		/>
	{:else}
		<path
			d="M{MIDDLE - half(bore)} 84 h{2 * half(bore)} v58 h-{2 * half(bore)} Z"
			stroke="currentColor"
			fill="currentColor"
			fill-opacity="0.08"
		/>
	{/if}
	<path
		d={cut(half(bore), half(bore) + ringed, 62, 44)}
		stroke="currentColor"
		stroke-width="1.6"
		fill="currentColor"
		class={outer ? 'text-faded' : 'text-oxide'}
		fill-opacity={outer ? 0 : 0.55}
	/>
	<path
		d={cut(half(outside) - ringed, half(outside), 62, 44)}
		stroke="currentColor"
		stroke-width="1.6"
		fill="currentColor"
		class={outer ? 'text-oxide' : 'text-faded'}
		fill-opacity={outer ? 0.55 : 0}
	/>
	{#each [-1, 1] as side (side)}
		<circle
			cx={MIDDLE + side * (half(bore) + section / 2)}
			cy="84"
			r={Math.max(section * 0.22, 3)}
			stroke="currentColor"
		/>
	{/each}
	<path
		d={cut(half(sleeve[0] ?? 0), half(sleeve[1] ?? 0), 26, 35)}
		stroke="currentColor"
		stroke-width="2"
		fill="currentColor"
		fill-opacity="0.25"
	/>
	<path d="M{MIDDLE} 4 v14 m-6 -6 l6 7 l6 -7" stroke="currentColor" stroke-width="2.5" />
	<text x={MIDDLE + half(sleeve[1] ?? 0) + 8} y="46" fill="currentColor" class="text-[12px]">sleeve</text>
	<text
		x={outer ? MIDDLE + half(outside) + 28 : MIDDLE}
		y={outer ? 124 : 136}
		text-anchor={outer ? 'start' : 'middle'}
		fill="currentColor"
		class="text-[12px]">{outer ? 'housing' : 'shaft'}</text
	>
</svg>
