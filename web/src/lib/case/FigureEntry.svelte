<script lang="ts">
	import { Square, Timer } from '@lucide/svelte';
	import { celsius, mm, unitFor } from '$lib/shown.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Figure from '$lib/ui/Figure.svelte';
	import { fixed, inField } from '$lib/units';
	import { useCase } from './case.svelte';

	interface Props {
		/** Which figures: a hub's heat beside its mate's, seconds to rest beside its mate's, movement at the tyre. */
		entry: 'heat' | 'seconds' | 'lever' | string;
		hub: string;
		onlog: (value: Record<string, unknown>, said: string) => Promise<void>;
	}
	let { entry, hub, onlog }: Props = $props();
	const held = useCase();
	let own = $state<number | null>(null);
	let mate = $state<number | null>(null);
	let air = $state<number | null>(null);
	let started = $state<number | null>(null);
	const seconds = fixed('s', 1);

	/** One pad for both: start when the wheel is let go, stop when it stands. */
	function clock() {
		if (started === null) started = performance.now();
		else {
			own = Number(((performance.now() - started) / 1000).toFixed(1));
			started = null;
		}
	}

	async function log() {
		if (own === null) return;
		const shown = entry === 'seconds' ? seconds : unitFor(entry === 'heat' ? 'temperature' : 'length');
		const warm = (value: number | null) => (value === null ? undefined : celsius(value));
		const values: Record<string, Record<string, unknown>> = {
			heat: { temp_c: celsius(own), mate_c: warm(mate), ambient_c: warm(air) },
			seconds: { seconds: own, mate_seconds: mate },
			lever: { movement_mm: mm(own) }
		};
		await onlog(values[entry] ?? {}, `${inField(own, shown)} ${shown.label}`);
		own = mate = air = null;
	}
</script>

<form
	class="plate grid gap-3"
	onsubmit={(event) => {
		event.preventDefault();
		void log();
	}}
>
	<div class="grid gap-3 sm:grid-cols-2">
		{#if entry === 'heat'}
			<Figure
				label="Near the cap, {hub}"
				bind:value={own}
				of="temperature"
				needed="Give how warm it is."
				big
			/>
			<Figure
				label="Its mate"
				bind:value={mate}
				of="temperature"
				needed={air === null ? 'Give its mate’s or the air’s.' : undefined}
				big
			/>
			<Figure label="The air, where its mate was not felt" bind:value={air} of="temperature" big />
		{:else if entry === 'seconds'}
			<Figure
				label="Seconds to rest, {hub}"
				bind:value={own}
				unit={seconds}
				above={0}
				needed="Give the seconds, or use the clock."
				big
			/>
			<Figure
				label="Its mate’s"
				bind:value={mate}
				unit={seconds}
				above={0}
				needed="Give its mate’s seconds: one alone tells nothing."
				big
			/>
		{:else}
			<Figure
				label="Movement at the tyre, {hub}"
				bind:value={own}
				of="length"
				least={0}
				needed="Give what was seen, such as {inField(0.001, unitFor('length'))}."
				big
			/>
		{/if}
	</div>
	<div class="flex flex-wrap gap-3">
		<Button type="submit" look="main" disabled={held.closed}>Log the figures</Button>
		{#if entry === 'seconds'}
			<Button onclick={clock}
				>{#if started === null}<Timer aria-hidden="true" />Let go: start{:else}<Square aria-hidden="true" />It
					stands: stop{/if}</Button
			>
		{/if}
	</div>
</form>
