<script lang="ts">
	import { useCase } from '$lib/case/case.svelte';
	import GaugePanel from '$lib/case/GaugePanel.svelte';
	import { entryWords } from '$lib/case/entry.svelte';
	import { session } from '$lib/session.svelte';
	import { length, lengthFigure, mmOf, unitLabel } from '$lib/shown.svelte';
	import { typed } from '$lib/units';
	import Button from '$lib/ui/Button.svelte';
	import Field from '$lib/ui/Field.svelte';
	import Notice from '$lib/ui/Notice.svelte';

	interface Props {
		hub: string;
		/** The verdict whose job these readings come after; none before any. */
		job?: string;
		onlogged?: () => void;
	}
	let { hub, job, onlogged }: Props = $props();
	const held = useCase();
	const draftKey = $derived(`draft-play-${held.id}-${hub}${job ? `-${job}` : ''}`);

	function drafted(): string[] {
		const kept = localStorage.getItem(`draft-play-${held.id}-${hub}${job ? `-${job}` : ''}`);
		return kept
			? (JSON.parse(kept) as string[])
			: Array<string>(session.reference?.least_readings ?? 3).fill('');
	}
	let readings = $state(drafted());
	let tried = $state(false);
	let instrument = $state('dial gauge');
	const unit = $derived(unitLabel('length'));
	const filled = $derived(readings.filter((text) => text.trim()));
	const wrong = (text: string) =>
		tried && text.trim() && !(typed(text) >= 0) ? 'Type a figure of zero or more.' : undefined;
	const shown = $derived(held.standing(hub, 'end_play', undefined, job));
	const limits = $derived(held.hubs.find((row) => row.id === hub));

	// What is typed survives a reload until it is logged.
	$effect(() => localStorage.setItem(draftKey, JSON.stringify(readings)));

	async function log() {
		tried = true;
		const values = filled.map(typed);
		if (!values.length || values.some((value) => !(value >= 0))) return;
		const readings_mm = values.map((value) => Number(mmOf(value).toFixed(4)));
		const resolution_mm = session.reference?.dial_resolutions_mm[unit];
		await held.observe(
			hub,
			'end_play',
			{ readings_mm, resolution_mm, instrument },
			`${hub}: dial readings`,
			job
		);
		localStorage.removeItem(draftKey);
		readings = readings.map(() => '');
		tried = false;
		onlogged?.();
	}

	/** A span read off the gauge goes into the first empty field. */
	function taken(mm: number) {
		instrument = 'digital gauge';
		const text = lengthFigure(mm);
		const empty = readings.findIndex((one) => !one.trim());
		if (empty < 0) readings.push(text);
		else readings[empty] = text;
	}
</script>

<form
	class="plate grid gap-3"
	onsubmit={(event) => {
		event.preventDefault();
		void log();
	}}
>
	<h2>Dial gauge, {hub}</h2>
	<p class="text-faded">
		Base on the knuckle or spindle, stem parallel to the axle. Push and pull, turning a little between
		readings.
		{#if limits}Window: {length(limits.window_min_mm)} to {length(limits.window_max_mm)}.{/if}
	</p>
	<GaugePanel {hub} ontake={taken} />
	<div class="grid grid-cols-3 gap-3">
		{#each readings as reading, n (n)}
			<Field
				label="{n + 1}, {unit}"
				bind:value={() => reading, (text) => (readings[n] = text)}
				numeric
				big
				wrong={wrong(reading)}
			/>
		{/each}
	</div>
	<div class="flex flex-wrap gap-3">
		<Button type="submit" look="main" disabled={held.closed}>Log readings</Button>
		<Button look="quiet" onclick={() => readings.push('')}>One more</Button>
	</div>
	{#if shown}<Notice>{entryWords(shown)}. Logged by {shown.person}; new readings supersede these.</Notice
		>{/if}
</form>
