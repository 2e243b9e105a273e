<script lang="ts">
	import { figure, type Unit } from '$lib/units';
	import { unitFor } from '$lib/shown.svelte';
	import { num } from '../drawn';

	/** A thermometer: the workshop, where it grips again, what is needed, and the most that the part stands. */
	let { picture }: { picture: Record<string, unknown> } = $props();
	const WIDTH = 300;
	const marks = $derived(
		[
			{ c: num(picture, 'ambient_c') ?? 20, words: 'workshop' },
			{ c: num(picture, 'grips_c') ?? 20, words: 'grips' },
			{ c: num(picture, 'to_c') ?? 20, words: 'needed' },
			{ c: num(picture, 'most_c') ?? 120, words: 'at most' }
		].sort((a, b) => a.c - b.c)
	);
	const most = $derived(num(picture, 'most_c') ?? 120);
	const [from, to] = $derived([marks[0]?.c ?? 0, Math.max(marks.at(-1)?.c ?? 1, most) * 1.05]);
	const x = (c: number) => 34 + ((c - from) / Math.max(to - from, 1)) * (WIDTH - 68);
	const unit = $derived<Unit>(unitFor('temperature'));
	const said = (c: number) => figure(c + 273.15, unit);
	const words = $derived(marks.map((mark) => `${mark.words} ${said(mark.c)} ${unit.label}`).join(', '));
</script>

<svg viewBox="0 0 {WIDTH} 84" class="w-full max-w-96" role="img" aria-label={words} fill="none">
	<path d="M34 40 H{x(most)}" stroke="currentColor" stroke-width="8" stroke-opacity="0.35" />
	<path
		d="M{x(most)} 40 H{WIDTH - 14}"
		stroke="currentColor"
		stroke-width="8"
		stroke-dasharray="4 4"
		class="text-oxide"
	/>
	{#each marks as mark, n (mark.words)}
		<path d="M{x(mark.c)} 30 V50" stroke="currentColor" stroke-width={mark.words === 'needed' ? 4 : 1.5} />
		<text
			x={x(mark.c)}
			y={n % 2 ? 64 : 24}
			text-anchor="middle"
			fill="currentColor"
			class="font-mono text-[12px]">{said(mark.c)}</text
		>
		<text x={x(mark.c)} y={n % 2 ? 78 : 11} text-anchor="middle" fill="currentColor" class="text-[12px]"
			>{mark.words}</text
		>
	{/each}
</svg>
