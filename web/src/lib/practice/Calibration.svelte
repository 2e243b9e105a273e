<script lang="ts">
	import { Download } from '@lucide/svelte';
	import type { Schemas } from '$lib/api/client';
	import { downloadBlob } from '$lib/download';
	import { counted, hundredths } from '$lib/numbers';
	import { saveDrawing } from '$lib/picture';
	import Button from '$lib/ui/Button.svelte';

	/** How sure somebody said to be against how often it was right: each ball stands for its answers, its rod for the doubt. */
	let { score, label, file }: { score: Schemas['ScoreOut']; label: string; file: string } = $props();
	let drawing: SVGSVGElement;
	const [WIDE, HIGH, LEFT, TOP, SIDE] = [360, 330, 58, 12, 270];
	const x = (share: number) => LEFT + share * SIDE;
	const y = (share: number) => TOP + (1 - share) * SIDE;
	const TICKS = [0, 0.25, 0.5, 0.75, 1];
	const size = (of: number) => 6 + Math.min(Math.sqrt(of), 6) * 1.6;
	let at = $state(-1);
	const read = $derived(score.held[at < 0 ? score.held.length - 1 : at]);
	const said = (one: Schemas['HeldOut']) =>
		`Said ${hundredths(one.said)}: right ${one.right} of ${one.of}, so between ${hundredths(one.low)} and ${hundredths(one.high)}.`;
	function move(event: KeyboardEvent) {
		const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
		if (!by) return;
		event.preventDefault();
		at = Math.min(score.held.length - 1, Math.max(0, (at < 0 ? score.held.length - 1 : at) + by));
	}
	const asPng = () => saveDrawing(drawing, [WIDE, HIGH], file);
	function asCsv() {
		const rows = score.held.map((one) => [one.said, one.right, one.of, one.low, one.high].join(','));
		downloadBlob(new Blob([['said,right,of,low,high', ...rows].join('\n')]), `${file}.csv`);
	}
	function near(event: PointerEvent) {
		const box = (event.currentTarget as SVGElement).getBoundingClientRect();
		const far = score.held.map((one) =>
			Math.abs(x(one.said) - ((event.clientX - box.left) / box.width) * WIDE)
		);
		at = far.indexOf(Math.min(...far));
	}
</script>

<figure class="grid gap-2">
	<figcaption class="flex flex-wrap items-baseline justify-between gap-2">
		<b>{label}</b><span class="text-faded">{counted(score.of, ['one answer', '# answers'])}</span>
	</figcaption>
	<!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
	<svg
		bind:this={drawing}
		viewBox="0 0 {WIDE} {HIGH}"
		class="w-full max-w-sm touch-pan-y"
		role="img"
		aria-label="{label}. {score.held.map(said).join(' ')}"
		tabindex="0"
		onkeydown={move}
		onpointermove={near}
		onpointerdown={near}
	>
		<rect x={LEFT} y={TOP} width={SIDE} height={SIDE} fill="none" stroke="var(--groove)" stroke-width="2" />
		<path d="M{x(0)} {y(0)} L{x(1)} {y(1)}" stroke="var(--faded)" stroke-width="2" stroke-dasharray="7 5" />
		{#each TICKS as tick (tick)}
			<text x={x(tick)} y={HIGH - 28} text-anchor="middle" font-size="15" fill="var(--faded)"
				>{hundredths(tick)}</text
			>
			<text x={LEFT - 6} y={y(tick) + 5} text-anchor="end" font-size="15" fill="var(--faded)"
				>{hundredths(tick)}</text
			>
		{/each}
		<text x={x(0.5)} y={HIGH - 6} text-anchor="middle" font-size="16" fill="var(--print)"
			>said to be sure</text
		>
		<text
			transform="translate(14 {y(0.5)}) rotate(-90)"
			text-anchor="middle"
			font-size="16"
			fill="var(--print)">was right</text
		>
		{#each score.held as one, n (one.said)}
			<path
				d="M{x(one.said)} {y(one.low)} L{x(one.said)} {y(one.high)}"
				stroke="var(--oxide)"
				stroke-width="5"
				stroke-linecap="round"
				opacity="0.45"
			/>
			<circle
				cx={x(one.said)}
				cy={y(one.right / one.of)}
				r={size(one.of)}
				fill={n === (at < 0 ? score.held.length - 1 : at) ? 'var(--oxide)' : 'var(--plate)'}
				stroke="var(--oxide)"
				stroke-width="3"
			/>
		{/each}
	</svg>
	{#if read}<p class="min-h-12" aria-live="polite">{said(read)}</p>{/if}
	<p>{score.words}</p>
	<p class="flex gap-2">
		<Button look="quiet" onclick={asPng}><Download aria-hidden="true" />Picture</Button>
		<Button look="quiet" onclick={asCsv}><Download aria-hidden="true" />CSV</Button>
	</p>
	<p class="text-faded">
		On the broken line one is as often right as one said. The rods are where the share may lie with nine in
		ten.
	</p>
</figure>
