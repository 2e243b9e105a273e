<script lang="ts">
	import { Square, Timer } from '@lucide/svelte';
	import { api, ask } from '$lib/api/client';
	import { length, mm, unitFor } from '$lib/shown.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Figure from '$lib/ui/Figure.svelte';
	import { fixed, inField } from '$lib/units';
	import { useCase } from './case.svelte';
	import { submits } from '$lib/ui/submits';

	interface Props {
		/** Which figures: seconds to rest beside its mate's, or movement at the tyre. */
		entry: 'seconds' | 'lever' | string;
		hub: string;
		onlog: (value: Record<string, unknown>, said: string) => Promise<void>;
	}
	let { entry, hub, onlog }: Props = $props();
	const held = useCase();
	let own = $state<number | null>(null);
	let mate = $state<number | null>(null);
	let started = $state<number | null>(null);
	const seconds = fixed('s', 1);
	/** The wheel's own radius, from its tyre where that is known; the hub's nobody knows but who measured it. */
	const usual = $derived((held.detail?.vehicle_detail.circumference_m ?? 0) / 2 / Math.PI || null);
	let tyre = $derived(usual);
	let radius = $state<number | null>(null);
	let atHub = $state('');

	/** One pad for both: start when the wheel is let go, stop when it stands. */
	function clock() {
		if (started === null) started = performance.now();
		else {
			own = Number(((performance.now() - started) / 1000).toFixed(1));
			started = null;
		}
	}

	const radii = $derived(
		tyre === null || radius === null ? {} : { tyre_radius_mm: mm(tyre), hub_radius_mm: mm(radius) }
	);
	// What the movement comes to at the hub, as soon as both radii are there: the same sum as the one that is judged by.
	$effect(() => {
		atHub = '';
		if (entry !== 'lever' || own === null || tyre === null || radius === null) return;
		const body = { tyre_movement_mm: mm(own), tyre_radius_mm: mm(tyre), hub_radius_mm: mm(radius) };
		let late = false;
		ask(api.POST('/api/sums/lever', { body })).then(
			(found) => late || (atHub = length(found.hub_movement_mm)),
			() => undefined // what cannot be worked out here is refused in words when it is logged
		);
		return () => (late = true);
	});

	async function log() {
		if (own === null) return;
		const shown = entry === 'seconds' ? seconds : unitFor('length');
		const value =
			entry === 'seconds' ? { seconds: own, mate_seconds: mate } : { movement_mm: mm(own), ...radii };
		await onlog(value, `${inField(own, shown)} ${shown.label}`);
		own = mate = null;
	}
</script>

<form class="plate grid gap-3" onsubmit={submits(log)}>
	<div class="grid gap-3 sm:grid-cols-2">
		{#if entry === 'seconds'}
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
			<Figure label="Radius of the tyre" bind:value={tyre} of="length" above={0} />
			<Figure label="Radius of the hub, where measured" bind:value={radius} of="length" above={0} />
			{#if atHub}<p class="self-center" role="status">
					At the hub: <span class="font-mono text-2xl">{atHub}</span>
				</p>{/if}
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
