<script lang="ts">
	import { Flame, OctagonX, Search, ThumbsUp } from '@lucide/svelte';
	import type { Schemas } from '$lib/api/client';
	import { outbox } from '$lib/outbox/outbox.svelte';
	import Waits from '$lib/outbox/Waits.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Field from '$lib/ui/Field.svelte';
	import { inUnits } from '$lib/shown.svelte';
	import { judged, latest } from './trip';

	interface Props {
		vehicle: string;
		road: Schemas['OnTheRoadOut'];
		onfelt: () => void;
	}
	let { vehicle, road, onfelt }: Props = $props();

	interface Trip {
		id: string;
		stop: number;
		place: string;
	}
	const key = $derived(`trip-${vehicle}`);
	const fresh = (): Trip => ({ id: crypto.randomUUID(), stop: 1, place: '' });
	let trip = $state<Trip>(fresh());
	$effect(() => {
		const kept = localStorage.getItem(key);
		trip = kept ? (JSON.parse(kept) as Trip) : fresh();
	});
	const keep = (next: Trip) => {
		trip = next;
		localStorage.setItem(key, JSON.stringify(next));
	};

	const to = $derived(`/api/vehicles/${vehicle}/feels`);
	type Sent = Schemas['FeelIn'];
	/** What was felt here: as the server has it, and what waits on this device after it. */
	const here = $derived([
		...road.felt.filter((one) => one.trip === trip.id && one.stop === trip.stop).reverse(),
		...outbox.writes(to).flatMap((entry) => {
			const body = (entry.kind === 'write' ? entry.body : {}) as Sent;
			return body.trip === trip.id && body.stop === trip.stop ? [body] : [];
		})
	]);
	const felt = $derived(latest(here));
	const found = $derived(judged(road.hubs, felt));
	const LEVELS = {
		stop: { icon: OctagonX, word: 'Stop', edge: 'border-l-oxide' },
		look: { icon: Search, word: 'Look', edge: 'border-l-ochre' },
		watch: { icon: Flame, word: 'Watch', edge: 'border-l-ochre' },
		good: { icon: ThumbsUp, word: 'Good', edge: '' }
	};
	const levelOf = (level: string) => LEVELS[level as keyof typeof LEVELS] ?? LEVELS.look;

	async function feel(hub: string, word: string) {
		keep(trip); // the trip's number stands on the device before anything is said of it
		const id = crypto.randomUUID();
		const body = { id, trip: trip.id, stop: trip.stop, place: trip.place, hub, felt: word, waited_s: 0 };
		await outbox.keep({
			id,
			caseId: '',
			label: `${hub} at stop ${trip.stop}`,
			kind: 'write',
			method: 'POST',
			to,
			body
		});
		onfelt();
	}
</script>

<section class="grid gap-3" aria-label="Stop {trip.stop}">
	<div class="flex flex-wrap items-end justify-between gap-3">
		<h2>Stop {trip.stop}</h2>
		<div class="flex flex-wrap gap-2">
			<Button onclick={() => keep({ ...trip, stop: trip.stop + 1, place: '' })}>Next stop</Button>
			<Button look="quiet" onclick={() => keep(fresh())}>A new trip</Button>
		</div>
	</div>
	<Field
		label="Where, if you like"
		bind:value={() => trip.place, (place) => keep({ ...trip, place })}
		placeholder="Lay-by before the pass"
	/>
	<p class="text-faded">The back of the hand near each cap, as soon as you stand. Each the same way.</p>
	<ul class="grid gap-2 sm:grid-cols-2">
		{#each road.hubs as hub (hub.id)}
			<li class="plate grid gap-2 py-2" aria-label="Hub {hub.id}">
				<p><b>{hub.words}</b> <span class="font-mono">{hub.id}</span></p>
				<div class="grid grid-cols-3 gap-2" role="group" aria-label="How {hub.id} feels">
					{#each road.feelings as word (word.key)}
						<button
							type="button"
							class="min-h-14 rounded-sm border border-faded bg-plate px-1 text-base aria-pressed:bg-blued aria-pressed:text-on-blued"
							aria-pressed={felt[hub.id] === word.key}
							onclick={() => void feel(hub.id, word.key)}>{word.words}</button
						>
					{/each}
				</div>
			</li>
		{/each}
	</ul>
	{#each found.filter((one) => one.means.level !== 'good') as one (one.hub.id)}
		{@const level = levelOf(one.means.level)}
		<div class="plate grid gap-1 {level.edge}" role="status">
			<p class="flex items-center gap-2 text-xl font-semibold">
				<level.icon aria-hidden="true" />{level.word}: {one.hub.words}
				<span class="font-mono">{one.hub.id}</span>
			</p>
			<p>{inUnits(one.means.do)}</p>
			<p class="text-faded">{inUnits(one.means.why)}</p>
		</div>
	{/each}
	{#if found.length === road.hubs.length && found.every((one) => one.means.level === 'good')}
		<p class="plate flex items-center gap-2 text-xl font-semibold" role="status">
			<ThumbsUp aria-hidden="true" />All cool. Go on.
		</p>
	{/if}
	<Waits entries={outbox.writes(to)} what="What was felt">It is sent when there is a line again.</Waits>
</section>
