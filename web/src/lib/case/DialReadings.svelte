<script lang="ts">
	import { useCase } from '$lib/case/case.svelte';
	import GaugePanel from '$lib/case/GaugePanel.svelte';
	import { entryWords } from '$lib/case/entry.svelte';
	import { session } from '$lib/session.svelte';
	import { length, mm, ofMm, unitLabel } from '$lib/shown.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Figure from '$lib/ui/Figure.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import { submits } from '$lib/ui/submits';

	interface Props {
		hub: string;
		/** The verdict whose job these readings come after; none before any. */
		job?: string;
		onlogged?: () => void;
	}
	let { hub, job, onlogged }: Props = $props();
	const held = useCase();
	const keyOf = () => `draft-play-${session.person?.id}-${held.id}-${hub}${job ? `-${job}` : ''}`;
	const draftKey = $derived(keyOf());

	function drafted(): (number | null)[] {
		const kept = localStorage.getItem(keyOf());
		return kept
			? (JSON.parse(kept) as (number | null)[])
			: Array<number | null>(session.reference?.least_readings ?? 3).fill(null);
	}
	/** In metres. */
	let readings = $state(drafted());
	let instrument = $state('dial gauge');
	const unit = $derived(unitLabel('length'));
	const filled = $derived(readings.filter((one) => one !== null));
	const shown = $derived(held.standing(hub, 'end_play', undefined, job));
	const limits = $derived(held.hubs.find((row) => row.id === hub));

	// What is typed survives a reload until it is logged.
	$effect(() => localStorage.setItem(draftKey, JSON.stringify(readings)));

	async function log() {
		if (!filled.length) return;
		const readings_mm = filled.map(mm);
		const resolution_mm = session.reference?.dial_resolutions_mm[unit];
		await held.observe(
			hub,
			'end_play',
			{ readings_mm, resolution_mm, instrument },
			`${hub}: dial readings`,
			job
		);
		localStorage.removeItem(draftKey);
		readings = readings.map(() => null);
		onlogged?.();
	}

	/** A span read off the gauge goes into the first empty field. */
	function taken(span_mm: number) {
		instrument = 'digital gauge';
		const empty = readings.findIndex((one) => one === null);
		readings[empty < 0 ? readings.length : empty] = ofMm(span_mm);
	}
</script>

<form class="plate grid gap-3" onsubmit={submits(log)}>
	<h2>Dial gauge, {hub}</h2>
	{#if limits}<p class="text-faded">
			Window: {length(limits.window_min_mm)} to {length(limits.window_max_mm)}.
		</p>{/if}
	<div class="grid grid-cols-3 gap-3">
		{#each readings as reading, n (n)}
			<Figure
				label="Reading {n + 1}"
				bind:value={() => reading, (value) => (readings[n] = value)}
				of="length"
				least={0}
				needed={n || filled.length ? undefined : 'Give a reading of zero or more.'}
				big
			/>
		{/each}
	</div>
	<div class="flex flex-wrap gap-3">
		<Button type="submit" look="main" disabled={held.closed}>Log readings</Button>
		<Button look="quiet" onclick={() => readings.push(null)}>One more</Button>
	</div>
	<GaugePanel {hub} ontake={taken} />
	{#if shown}<Notice>{entryWords(shown)}. Logged by {shown.person}; new readings supersede these.</Notice
		>{/if}
</form>
