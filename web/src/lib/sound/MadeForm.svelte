<script lang="ts">
	import { wordsOf } from '$lib/api/client';
	import { session } from '$lib/session.svelte';
	import Choice from '$lib/ui/Choice.svelte';
	import Figure from '$lib/ui/Figure.svelte';
	import { fixed, type Unit } from '$lib/units';
	import Tick from '$lib/ui/Tick.svelte';
	import type { Made } from './made.svelte';
	import { readSpeedLog } from './speedlog';

	let { made }: { made: Made } = $props();
	let wrong = $state('');
	const sources = $derived(session.reference?.sources ?? []);
	const sensors = $derived(session.reference?.sensors ?? []);
	const ways = $derived(
		(session.reference?.captures ?? [])
			.filter((row) => made.source !== 'simulated' || row.situation !== 'road')
			.map((row) => ({ key: row.key, words: row.label }))
	);
	const speeds = $derived(
		(session.reference?.speeds ?? [])
			.filter(({ key }) => (made.way?.speed ?? ['unknown']).includes(key))
			.filter(({ key }) => key !== 'marks' || made.source === 'microphone')
			.map(({ key, label, spun }) => ({
				key,
				words: made.way?.situation === 'stand_spin' ? spun || label : label
			}))
	);
	const turns: Partial<Record<string, Unit>> = {
		wheel: fixed('turns a second', 2),
		counted: fixed('turns in all', 1)
	};
	const figured = $derived(made.speedKind === 'road' || made.speedKind in turns);

	async function bringLog(event: Event & { currentTarget: HTMLInputElement }) {
		const file = event.currentTarget.files?.[0];
		event.currentTarget.value = '';
		wrong = '';
		if (!file) return;
		try {
			made.points = await readSpeedLog(file);
		} catch (error) {
			wrong = wordsOf(error);
		}
	}
</script>

<section class="grid gap-3" aria-label="How it is made">
	<div class="grid gap-1">
		<p class="text-faded">From</p>
		<Choice label="From" options={sources} bind:value={made.source} row />
	</div>
	<div class="grid gap-1">
		<p class="text-faded">Test</p>
		<Choice
			label="Which test"
			options={ways}
			bind:value={() => made.capture, (key) => made.choose(key)}
			row
		/>
	</div>
	<div class="grid gap-1">
		<p class="text-faded">Speed</p>
		<Choice
			label="Speed"
			options={speeds}
			bind:value={() => made.speedKind, (kind) => made.states(kind)}
			row
		/>
	</div>
	{#if figured}
		<!-- A kind of its own each: eight turns are not eight km/h. -->
		{#key made.speedKind}
			<Figure
				label="How fast"
				bind:value={made.speed}
				of={made.speedKind === 'road' ? 'speed' : undefined}
				unit={turns[made.speedKind]}
				above={0}
			/>
		{/key}
	{:else if made.speedKind === 'profile'}
		<label
			class="inline-flex min-h-12 cursor-pointer items-center justify-center rounded-sm border border-faded bg-plate px-4"
		>
			{made.points.length ? `Speed log of ${made.points.length} points` : 'Choose a CSV or GPX speed log'}
			<input type="file" accept=".csv,.gpx,.txt" class="sr-only" onchange={bringLog} />
		</label>
	{/if}
	{#if wrong}<p class="text-oxide">{wrong}</p>{/if}
	<div class="grid gap-1">
		<p class="text-faded">Pickup</p>
		<Choice label="Pickup" options={sensors} bind:value={made.sensor} row />
	</div>
	<Tick
		label="Same pickup and gain at every corner, so levels may be compared"
		bind:checked={made.sameGain}
	/>
</section>
