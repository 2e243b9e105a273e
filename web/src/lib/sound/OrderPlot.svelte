<script lang="ts">
	import { Download } from '@lucide/svelte';
	import uPlot from 'uplot';
	import 'uplot/dist/uPlot.min.css';
	import { api, ask, wordsOf, type Schemas } from '$lib/api/client';
	import { session } from '$lib/session.svelte';
	import { standingFamilies } from './families';
	import Button from '$lib/ui/Button.svelte';

	interface Props {
		recording: Schemas['RecordingOut'];
	}
	let { recording }: Props = $props();
	let host = $state<HTMLDivElement>();
	let wrong = $state('');
	let readout = $state('');
	let plot: uPlot | undefined;
	let data: Schemas['PlotOut'] | undefined;

	/** The families worth naming on the plot: those that stand, else none. */
	const named = $derived(standingFamilies(recording));
	const atSpeed = $derived(
		recording.turns_per_s ? ` at ${recording.turns_per_s.toFixed(2)} turns a second` : ''
	);
	const css = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(name).trim();

	function drawLines(u: uPlot) {
		const { ctx } = u;
		ctx.save();
		ctx.textAlign = 'left';
		ctx.font = `${13 * devicePixelRatio}px 'Archivo Variable', sans-serif`;
		named.forEach((family, row) => {
			ctx.strokeStyle = ctx.fillStyle = css(row === 0 ? '--oxide' : '--ochre');
			ctx.setLineDash(row === 0 ? [] : [6, 4]);
			for (const { name, order } of family.lines) {
				if (order > (u.scales.x?.max ?? 0) || name.length > 2) continue;
				const x = u.valToPos(order, 'x', true);
				ctx.beginPath();
				ctx.moveTo(x, u.bbox.top);
				ctx.lineTo(x, u.bbox.top + u.bbox.height);
				ctx.stroke();
				const words = name === '1×' ? session.words('line_kinds', family.kind) : name;
				ctx.fillText(words, x + 4 * devicePixelRatio, u.bbox.top + (14 + row * 16) * devicePixelRatio);
			}
		});
		ctx.restore();
	}

	function draw(element: HTMLDivElement, found: Schemas['PlotOut']) {
		const axis = {
			stroke: css('--print'),
			grid: { stroke: css('--groove') },
			ticks: { stroke: css('--groove') }
		};
		const font = "15px 'Archivo Variable', sans-serif";
		plot = new uPlot(
			{
				width: element.clientWidth,
				height: 280,
				legend: { show: false },
				scales: { x: { time: false } },
				axes: [
					{ ...axis, font, labelFont: font, label: 'Events per wheel turn', labelSize: 26 },
					{ ...axis, font, labelFont: font, label: 'Height over the floor, dB', labelSize: 26, size: 44 }
				],
				series: [{}, { stroke: css('--print'), width: 1.4, points: { show: false } }],
				hooks: {
					draw: [drawLines],
					setCursor: [
						(u) => {
							const at = u.cursor.idx;
							readout =
								at === null || at === undefined
									? ''
									: `${found.orders[at]?.toFixed(2)} a turn: ${found.db[at]?.toFixed(1)} dB`;
						}
					]
				}
			},
			[found.orders, found.db],
			element
		);
	}

	$effect(() => {
		const element = host;
		const path = { recording_id: recording.id };
		void session.light; // colours are read when drawn
		if (!element) return;
		let gone = false;
		ask(api.GET('/api/recordings/{recording_id}/plot', { params: { path } })).then(
			(found) => {
				if (gone) return;
				data = found;
				if (found.orders.length) draw(element, found);
			},
			(error) => (wrong = wordsOf(error))
		);
		const watch = new ResizeObserver(() => plot?.setSize({ width: element.clientWidth, height: 280 }));
		watch.observe(element);
		return () => {
			gone = true;
			watch.disconnect();
			plot?.destroy();
			plot = undefined;
		};
	});

	function save(href: string, name: string) {
		const link = document.createElement('a');
		link.href = href;
		link.download = name;
		link.click();
	}
	const name = $derived(`${recording.place}-orders`);
	function csv() {
		const rows = data?.orders.map((order, n) => `${order},${data?.db[n]}`) ?? [];
		const text = ['events_per_wheel_turn,db_over_floor', ...rows].join('\n');
		save(URL.createObjectURL(new Blob([text], { type: 'text/csv' })), `${name}.csv`);
	}
	const png = () => plot && save(plot.ctx.canvas.toDataURL('image/png'), `${name}.png`);
</script>

<figure class="grid gap-2">
	<figcaption class="flex flex-wrap items-center justify-between gap-2">
		<span>
			What repeats in {recording.place}, per wheel turn (order spectrum of the envelope){atSpeed}
		</span>
		<output class="font-mono" aria-live="off">{readout}</output>
	</figcaption>
	{#if recording.turns_per_s}
		<div
			bind:this={host}
			class="w-full overflow-hidden"
			role="img"
			aria-label="Order spectrum of {recording.place}"
		></div>
		<div class="flex gap-2">
			<Button onclick={png}><Download aria-hidden="true" />PNG</Button>
			<Button onclick={csv}><Download aria-hidden="true" />CSV</Button>
		</div>
	{:else}
		<p class="text-faded">
			No speed was given, so nothing can be laid out per wheel turn; only the loudness counts.
		</p>
	{/if}
	{#if wrong}<p class="text-oxide">{wrong}</p>{/if}
</figure>
