<script lang="ts">
	import { lengthFigure, unitLabel } from '$lib/shown.svelte';
	import { num, nums, rows } from '../drawn';

	/** The window of play, and on it the range that is to be expected, or each place of a lock with its own. */
	let { picture }: { picture: Record<string, unknown> } = $props();
	const WIDTH = 300;
	const window = $derived(nums(picture, 'window_mm'));
	const places = $derived(rows(picture, 'positions'));
	const chosen = $derived(num(picture, 'chosen_deg'));
	const ranges = $derived(
		places.length
			? places.map((row) => ({
					least: num(row, 'least_mm') ?? 0,
					most: num(row, 'most_mm') ?? 0,
					main: num(row, 'angle_deg') === chosen,
					words: `${(num(row, 'angle_deg') ?? 0).toFixed(0)}°`
				}))
			: [{ least: num(picture, 'least_mm') ?? 0, most: num(picture, 'most_mm') ?? 0, main: true, words: '' }]
	);
	const [low, high] = $derived([window[0] ?? 0, window[1] ?? 0]);
	const end = $derived(Math.max(high * 1.6, ...ranges.map((row) => row.most * 1.1), 0.05));
	const x = (mm: number) => 8 + (Math.min(mm, end) / end) * (WIDTH - 16);
	const words = $derived(
		`Play: ${ranges.map((row) => `${row.words} ${lengthFigure(row.least)} to ${lengthFigure(row.most)}`).join('; ')} ${unitLabel('length')}` +
			(high ? `; the window is ${lengthFigure(low)} to ${lengthFigure(high)}` : '')
	);
</script>

<svg
	viewBox="0 0 {WIDTH} {44 + ranges.length * 18}"
	class="w-full max-w-96"
	role="img"
	aria-label={words}
	fill="none"
>
	{#if high > 0}
		<rect
			x={x(low)}
			y="4"
			width={Math.max(x(high) - x(low), 2)}
			height={14 + ranges.length * 18}
			fill="currentColor"
			fill-opacity="0.16"
			stroke="currentColor"
			stroke-dasharray="3 3"
		/>
		<text
			x={x(low)}
			y={32 + ranges.length * 18}
			text-anchor="middle"
			fill="currentColor"
			class="font-mono text-[12px]">{lengthFigure(low)}</text
		>
		<text
			x={x(high)}
			y={32 + ranges.length * 18}
			text-anchor="middle"
			fill="currentColor"
			class="font-mono text-[12px]">{lengthFigure(high)}</text
		>
	{/if}
	<path d="M8 {18 + ranges.length * 18} H{WIDTH - 8}" stroke="currentColor" />
	{#each ranges as row, n (n)}
		<path
			d="M{x(row.least)} {16 + n * 18} H{Math.max(x(row.most), x(row.least) + 3)} M{x(row.least)} {11 +
				n * 18} v10 M{Math.max(x(row.most), x(row.least) + 3)} {11 + n * 18} v10"
			stroke="currentColor"
			stroke-width={row.main ? 4 : 1.5}
			class={row.main ? '' : 'text-faded'}
		/>
		{#if row.words}<text
				x={Math.min(x(row.most) + 6, WIDTH - 26)}
				y={20 + n * 18}
				fill="currentColor"
				class="font-mono text-[12px]">{row.words}</text
			>{/if}
	{/each}
	<text x={WIDTH - 8} y={32 + ranges.length * 18} text-anchor="end" fill="currentColor" class="text-[12px]"
		>{unitLabel('length')}</text
	>
</svg>
