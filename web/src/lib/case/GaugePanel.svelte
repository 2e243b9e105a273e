<script lang="ts">
	import { Plug } from '@lucide/svelte';
	import { api, ask, wordsOf } from '$lib/api/client';
	import { bindKeys } from '$lib/keys.svelte';
	import { length } from '$lib/shown.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import { cableGauge, Gauge, hasSerial, SimulatedGauge, type GaugePort, type GaugeReading } from './gauge';
	import { useCase } from './case.svelte';

	interface Props {
		hub: string;
		/** A span, mm, from pushed in to pulled out. */
		ontake: (mm: number) => void;
		/** What the simulated gauge finds now, stroke by stroke, mm, where its nut is being turned. */
		turned?: number[];
	}
	let { hub, ontake, turned }: Props = $props();
	const held = useCase();
	let gauge = $state.raw<Gauge | null>(null);
	let reading = $state.raw<GaugeReading | null>(null);
	let low = $state(Infinity);
	let high = $state(-Infinity);
	let lost = $state(false);
	let wrong = $state('');
	const span = $derived(high > low ? high - low : 0);

	function onreading(one: GaugeReading) {
		reading = one;
		if (one.held) return;
		low = Math.min(low, one.mm);
		high = Math.max(high, one.mm);
	}
	async function connect(port: GaugePort | null) {
		if (!port) return;
		lost = false;
		again();
		gauge = await Gauge.connect(port, onreading, () => {
			gauge = null;
			lost = true;
		}).catch(() => null);
		if (!gauge) lost = true;
	}
	const at = (strokes: number[], stroke: number) => strokes[stroke % strokes.length] ?? 0;
	/** What the simulated gauge will find, stroke by stroke; asked of the server, which alone knows the hub. */
	async function simulated() {
		wrong = '';
		try {
			const params = { path: { case_id: held.id }, query: { hub } };
			const found = await ask(api.GET('/api/cases/{case_id}/simulated/strokes', { params }));
			await connect(new SimulatedGauge((stroke) => at(turned ?? found.strokes_mm, stroke)));
		} catch (error) {
			wrong = wordsOf(error);
		}
	}
	function again() {
		low = Infinity;
		high = -Infinity;
	}
	function take() {
		if (!gauge || span <= 0) return;
		ontake(span);
		again();
	}
	async function zero() {
		await gauge?.send('ZERO');
		again();
	}
	$effect(() => () => void gauge?.close());
	$effect(() =>
		gauge
			? bindKeys([
					{ key: 't', label: 'Take the span as a reading', run: take },
					{ key: 'z', label: 'Zero the gauge', run: () => void zero() }
				])
			: undefined
	);
</script>

{#if gauge}
	<div class="grid gap-2 border-l-4 border-blued pl-3" role="group" aria-label="Gauge on the line">
		<p class="flex flex-wrap items-baseline justify-between gap-3">
			<output class="figure" aria-label="The gauge shows">{reading?.shown ?? '…'}</output>
			<span>span <span class="font-mono text-2xl">{length(span)}</span></span>
		</p>
		<div class="flex flex-wrap gap-2">
			<Button hotkey="t" look="main" onclick={take}>Take the span</Button>
			<Button hotkey="z" onclick={zero}>Zero</Button>
			<Button onclick={() => gauge?.send(reading?.held ? 'GO' : 'HOLD')}
				>{reading?.held ? 'Go on' : 'Hold'}</Button
			>
			<Button onclick={() => gauge?.send('UNIT')}>mm / in</Button>
		</div>
	</div>
{:else}
	<div class="flex flex-wrap gap-2">
		{#if hasSerial()}
			<Button onclick={async () => connect(await cableGauge())}
				><Plug aria-hidden="true" />Gauge on a cable</Button
			>
		{/if}
		<Button onclick={simulated}><Plug aria-hidden="true" />Simulated gauge</Button>
	</div>
{/if}
{#if wrong}<Notice level="warn">{wrong}</Notice>{/if}
{#if lost}<Notice level="warn"
		>The gauge is gone. What was read stays; plug it in again or type the figures.</Notice
	>{/if}
