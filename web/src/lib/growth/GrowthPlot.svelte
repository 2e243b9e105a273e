<script lang="ts">
	import { Download } from '@lucide/svelte';
	import type { Schemas } from '$lib/api/client';
	import { day } from '$lib/dates';
	import { downloadBlob } from '$lib/download';
	import { saveDrawing } from '$lib/picture';
	import { decimal } from '$lib/numbers';
	import { length, unitFor, written } from '$lib/shown.svelte';
	import Button from '$lib/ui/Button.svelte';
	import { counts, frame, HIGH, line, WIDE } from './scale';

	interface Props {
		series: Schemas['SeriesOut'];
		/** The same quantity across the axle. */
		mate?: Schemas['SeriesOut'];
	}
	let { series, mate }: Props = $props();
	const drawn = $derived(frame(series, mate));
	const through = $derived(line(series));
	const own = $derived(series.points.map((one) => ({ ...one, ms: new Date(one.at).getTime() })));
	const since = $derived(own.filter((one) => counts(series, one.at)));
	/** A figure with its unit, a length in the person's own. */
	const say = (value: number) =>
		series.unit === 'mm' ? length(value) : `${decimal(value, 1)} ${series.unit}`;
	const unit = $derived(series.unit === 'mm' ? unitFor('length').label : series.unit);
	const tick = (value: number) => {
		if (series.unit !== 'mm') return decimal(value, 1);
		const liked = unitFor('length');
		return decimal(
			(value * (written('mm')?.unit.factor ?? 0.001)) / liked.factor,
			liked.key === 'mm' ? 2 : 4
		);
	};
	let at = $state(-1);
	const read = $derived(own[at < 0 ? own.length - 1 : at]);
	let picture: SVGSVGElement;

	function move(event: KeyboardEvent) {
		const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
		if (!by) return;
		event.preventDefault();
		at = Math.min(own.length - 1, Math.max(0, (at < 0 ? own.length - 1 : at) + by));
	}
	function near(event: PointerEvent) {
		const box = picture.getBoundingClientRect();
		const x = ((event.clientX - box.left) / box.width) * WIDE;
		const far = own.map((one) => Math.abs(drawn.x(one.ms) - x));
		at = far.indexOf(Math.min(...far));
	}
	const name = $derived(`${series.hub}-${series.key}`);
	function asCsv() {
		const rows = own.map((one) => `${one.at},${series.hub},${one.value}`);
		downloadBlob(new Blob([[`when,hub,${series.key}_${series.unit}`, ...rows].join('\n')]), `${name}.csv`);
	}
	const asPng = () => saveDrawing(picture, [WIDE, HIGH], name);
	const dates = $derived(
		[series.trend?.soonest_on, series.trend?.latest_on].map((on) => (on ? new Date(on).getTime() : null))
	);
</script>

<figure class="grid gap-1">
	<div
		role="slider"
		tabindex="0"
		aria-label="{series.label} at {series.hub}"
		aria-valuemin={0}
		aria-valuemax={own.length - 1}
		aria-valuenow={at < 0 ? own.length - 1 : at}
		aria-valuetext={read ? `${day(read.at)}: ${say(read.value)}` : 'nothing measured'}
		onkeydown={move}
	>
		<svg
			bind:this={picture}
			viewBox="0 0 {WIDE} {HIGH}"
			width={WIDE}
			height={HIGH}
			class="h-auto w-full text-[13px] max-sm:text-[22px]"
			onpointermove={near}
			onpointerdown={near}
			aria-hidden="true"
		>
			{#each drawn.ticks as value (value)}
				<line x1="58" x2={WIDE - 14} y1={drawn.y(value)} y2={drawn.y(value)} class="stroke-groove" />
				<text x="52" y={drawn.y(value) + 4} text-anchor="end" class="fill-faded">{tick(value)}</text>
			{/each}
			{#each drawn.years as one (one.at)}
				<text x={drawn.x(one.at)} y={HIGH - 12} text-anchor="middle" class="fill-faded">{one.words}</text>
			{/each}
			<text x="58" y="18" class="fill-faded">{series.label}, {unit}</text>
			{#if dates[0] !== null && dates[0] !== undefined}
				{@const end = Math.min(dates[1] ?? drawn.to, drawn.to)}
				<rect
					x={drawn.x(Math.min(dates[0], drawn.to))}
					y="26"
					width={Math.max(2, drawn.x(end) - drawn.x(Math.min(dates[0], drawn.to)))}
					height={HIGH - 60}
					class="fill-ochre opacity-25"
				/>
			{/if}
			{#if series.limit !== null}
				<line
					x1="58"
					x2={WIDE - 14}
					y1={drawn.y(series.limit)}
					y2={drawn.y(series.limit)}
					class="stroke-oxide"
					stroke-width="2"
				/>
				<text x={WIDE - 16} y={drawn.y(series.limit) - 5} text-anchor="end" class="fill-oxide"
					>limit {say(series.limit)}</text
				>
			{/if}
			{#each series.breaks as on (on)}
				<line
					x1={drawn.x(new Date(on).getTime())}
					x2={drawn.x(new Date(on).getTime())}
					y1="26"
					y2={HIGH - 34}
					class="stroke-print"
					stroke-dasharray="2 3"
				/>
				<text x={drawn.x(new Date(on).getTime()) + 4} y="38" class="fill-print">mended</text>
			{/each}
			{#if through && since.length}
				{@const [a, b] = [since[0]?.ms ?? drawn.from, drawn.to]}
				<line
					x1={drawn.x(a)}
					x2={drawn.x(b)}
					y1={drawn.y(through(a))}
					y2={drawn.y(through(b))}
					class="stroke-print"
					stroke-width="1.5"
					stroke-dasharray="7 4"
				/>
			{/if}
			{#each mate?.points ?? [] as one (one.at + one.value)}
				<rect
					x={drawn.x(new Date(one.at).getTime()) - 4}
					y={drawn.y(one.value) - 4}
					width="8"
					height="8"
					class="fill-none stroke-faded"
					stroke-width="2"
				/>
			{/each}
			{#each own as one, n (one.at + n)}
				<circle
					cx={drawn.x(one.ms)}
					cy={drawn.y(one.value)}
					r={n === at ? 8 : 5}
					class={counts(series, one.at) ? 'fill-blued stroke-plate' : 'fill-none stroke-faded'}
					stroke-width="2"
				/>
			{/each}
		</svg>
	</div>
	<figcaption class="flex flex-wrap items-center justify-between gap-2">
		<span
			>{#if read}{day(read.at)}: <b>{say(read.value)}</b>{/if}
			<span class="text-faded">● {series.hub}{mate ? `, □ ${mate.hub}` : ''}</span></span
		>
		<span class="flex gap-2">
			<Button look="quiet" onclick={asPng}><Download aria-hidden="true" />Picture</Button>
			<Button look="quiet" onclick={asCsv}><Download aria-hidden="true" />CSV</Button>
		</span>
	</figcaption>
</figure>
