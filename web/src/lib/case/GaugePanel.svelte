<script lang="ts">
	import { Plug } from '@lucide/svelte';
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
		/** The play that the simulated gauge finds now, mm, where its nut is being turned. */
		turned?: number;
	}
	let { hub, ontake, turned }: Props = $props();
	const held = useCase();
	let gauge = $state.raw<Gauge | null>(null);
	let reading = $state.raw<GaugeReading | null>(null);
	let low = $state(Infinity);
	let high = $state(-Infinity);
	let lost = $state(false);
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
	const simulated = () =>
		connect(new SimulatedGauge(() => turned ?? held.detail?.simulated_play_mm[hub] ?? 0));
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
{#if lost}<Notice level="warn"
		>The gauge is gone. What was read stays; plug it in again or type the figures.</Notice
	>{/if}
