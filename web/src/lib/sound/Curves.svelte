<script lang="ts">
	import { Download } from '@lucide/svelte';
	import uPlot from 'uplot';
	import 'uplot/dist/uPlot.min.css';
	import { download, downloadBlob } from '$lib/download';
	import { session } from '$lib/session.svelte';
	import Button from '$lib/ui/Button.svelte';
	import { dashes } from './dashes';

	export interface Curve {
		name: string;
		x: number[];
		y: number[];
	}
	/** A named place on the x axis; `row` keeps labels of different kinds apart. */
	export interface Place {
		x: number;
		words: string;
		row: number;
	}
	interface Props {
		/** Names the picture for those who do not see it, and the files. */
		label: string;
		file: string;
		curves: Curve[];
		places?: Place[];
		xLabel: string;
		yLabel: string;
		/** Head of the CSV's columns. */
		columns: [string, string];
		readout: (x: number, y: number) => string;
		logarithmic?: boolean;
		height?: number;
		/** The top of the y axis, where several plots are to be compared at a glance. */
		yMax?: number;
		/** Without read-out and export, as one of several small ones. */
		bare?: boolean;
	}
	let {
		label,
		file,
		curves,
		places = [],
		xLabel,
		yLabel,
		columns,
		readout,
		logarithmic = false,
		height = 280,
		yMax,
		bare = false
	}: Props = $props();
	let host = $state<HTMLDivElement>();
	let said = $state('');
	/** Where the cursor stands, as a place in the first curve. */
	let at = $state(0);
	const first = $derived(curves[0]?.x ?? []);
	let plot: uPlot | undefined;
	const css = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(name).trim();

	function drawPlaces(u: uPlot) {
		const { ctx } = u;
		ctx.save();
		ctx.textAlign = 'left';
		ctx.font = `${13 * devicePixelRatio}px 'Archivo Variable', sans-serif`;
		const taken: Record<number, number> = {}; // how far to the right labels stand in each row
		for (const { x: at, words, row } of places) {
			if (at > (u.scales.x?.max ?? 0) || at < (u.scales.x?.min ?? 0)) continue;
			ctx.strokeStyle = ctx.fillStyle = css(row === 0 ? '--oxide' : '--ochre');
			ctx.setLineDash(row === 0 ? [] : [6, 4]);
			const x = u.valToPos(at, 'x', true);
			ctx.beginPath();
			ctx.moveTo(x, u.bbox.top);
			ctx.lineTo(x, u.bbox.top + u.bbox.height);
			ctx.stroke();
			if (x < (taken[row] ?? 0)) continue; // it would stand on the label before
			ctx.fillText(words, x + 4 * devicePixelRatio, u.bbox.top + (14 + row * 16) * devicePixelRatio);
			taken[row] = x + ctx.measureText(words).width + 8 * devicePixelRatio;
		}
		ctx.restore();
	}

	function draw(element: HTMLDivElement): uPlot {
		const axis = {
			stroke: css('--print'),
			grid: { stroke: css('--groove') },
			ticks: { stroke: css('--groove') }
		};
		const font = "15px 'Archivo Variable', sans-serif";
		const table = uPlot.join(curves.map((curve) => [curve.x, curve.y] as uPlot.AlignedData));
		return new uPlot(
			{
				width: element.clientWidth,
				height,
				legend: { show: false },
				scales: {
					x: { time: false, distr: logarithmic ? 3 : 1 },
					y: yMax === undefined ? {} : { range: [0, yMax] }
				},
				axes: [
					bare ? { ...axis, font } : { ...axis, font, labelFont: font, label: xLabel, labelSize: 26 },
					bare
						? { ...axis, font, size: 34 }
						: { ...axis, font, labelFont: font, label: yLabel, labelSize: 26, size: 44 }
				],
				series: [
					{},
					...curves.map((_, n) => ({
						stroke: css(dashes[n % dashes.length]?.colour ?? '--print'),
						dash: dashes[n % dashes.length]?.dash,
						width: n ? 1.6 : 1.4,
						spanGaps: true,
						points: { show: false }
					}))
				],
				hooks: {
					draw: [drawPlaces],
					setCursor: [
						(u) => {
							const idx = u.cursor.idx;
							const x = idx === null || idx === undefined ? undefined : u.data[0][idx];
							const y = idx === null || idx === undefined ? undefined : u.data[1]?.[idx];
							said = x === undefined || y === undefined || y === null ? '' : readout(x, y);
						}
					]
				}
			},
			table,
			element
		);
	}

	$effect(() => {
		const element = host;
		void session.light; // colours are read when drawn
		if (!element || !curves.some((curve) => curve.x.length)) return;
		const made = draw(element);
		plot = made;
		const watch = new ResizeObserver(() => made.setSize({ width: element.clientWidth, height }));
		watch.observe(element);
		return () => {
			watch.disconnect();
			made.destroy();
			plot = undefined;
		};
	});

	/** By arrow from point to point, by page from one named line to the next. */
	function move(event: KeyboardEvent) {
		const here = first[at] ?? 0;
		const lines = [...new Set(places.map((place) => place.x))].sort((a, b) => a - b);
		const nearest = (x: number | undefined) =>
			x === undefined
				? at
				: first.reduce((best, v, n) => (Math.abs(v - x) < Math.abs((first[best] ?? 0) - x) ? n : best), 0);
		const step = Math.max(Math.round(first.length / 400), 1);
		const to: Record<string, number> = {
			ArrowLeft: at - step,
			ArrowRight: at + step,
			Home: 0,
			End: first.length - 1,
			PageDown: nearest(lines.find((x) => x > here + 1e-6)),
			PageUp: nearest(lines.findLast((x) => x < here - 1e-6))
		};
		const asked = to[event.key];
		if (asked === undefined || !plot) return;
		event.preventDefault();
		at = Math.min(Math.max(asked, 0), first.length - 1);
		plot.setCursor({ left: plot.valToPos(first[at] ?? 0, 'x'), top: 10 });
	}

	function csv() {
		const rows = curves.flatMap((curve) => curve.x.map((x, n) => `${curve.name},${x},${curve.y[n]}`));
		const text = [`corner,${columns.join(',')}`, ...rows].join('\n');
		downloadBlob(new Blob([text], { type: 'text/csv' }), `${file}.csv`);
	}
	const png = () => plot && download(plot.ctx.canvas.toDataURL('image/png'), `${file}.png`);
</script>

<div class="grid gap-2">
	{#if curves.length > 1}
		<ul class="flex flex-wrap gap-x-5 gap-y-1" aria-label="Which line is which">
			{#each curves as curve, n (curve.name)}
				<li class="flex items-center gap-2">
					<svg width="44" height="8" aria-hidden="true"
						><line
							x1="0"
							y1="4"
							x2="44"
							y2="4"
							stroke="var({dashes[n % dashes.length]?.colour})"
							stroke-width="3"
							stroke-dasharray={dashes[n % dashes.length]?.dash?.join(' ')}
						/></svg
					>{curve.name}
				</li>
			{/each}
		</ul>
	{/if}
	{#if !bare}<output class="-mt-2 block min-h-6 text-right font-mono" aria-live="off">{said}</output>{/if}
	{#if bare}
		<div bind:this={host} class="w-full overflow-hidden" role="img" aria-label={label}></div>
	{:else}
		<div
			bind:this={host}
			class="w-full overflow-hidden"
			role="slider"
			tabindex="0"
			aria-label="{label}; arrows move the cursor, page keys go from line to line"
			aria-valuemin={0}
			aria-valuemax={Math.max(first.length - 1, 0)}
			aria-valuenow={at}
			aria-valuetext={said || 'no point chosen'}
			onkeydown={move}
		></div>
	{/if}
	{#if !bare}<div class="flex gap-2">
			<Button onclick={png}><Download aria-hidden="true" />PNG</Button>
			<Button onclick={csv}><Download aria-hidden="true" />CSV</Button>
		</div>{/if}
</div>
