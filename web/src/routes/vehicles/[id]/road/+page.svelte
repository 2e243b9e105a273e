<script lang="ts">
	import { page } from '$app/state';
	import { api, ask, wordsOf, type Schemas } from '$lib/api/client';
	import { outbox } from '$lib/outbox/outbox.svelte';
	import KitList from '$lib/road/KitList.svelte';
	import StopPads from '$lib/road/StopPads.svelte';
	import { distance, km, ofKm } from '$lib/shown.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Figure from '$lib/ui/Figure.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Tick from '$lib/ui/Tick.svelte';

	let road = $state.raw<Schemas['OnTheRoadOut'] | null>(null);
	let wrong = $state('');
	const id = $derived(page.params.id ?? '');
	/** Kept on the device: the plan of stops is wanted where there is no line. */
	let far = $state<number | null>(null);
	let workedOn = $state(false);
	$effect(() => {
		const kept = JSON.parse(localStorage.getItem(`far-${id}`) ?? '{}') as { far?: number; worked?: boolean };
		far = ofKm(kept.far ?? null);
		workedOn = kept.worked ?? false;
	});
	$effect(() => {
		localStorage.setItem(`far-${id}`, JSON.stringify({ far: km(far), worked: workedOn }));
		void load();
	});
	$effect(() => outbox.onSent((entry) => void (entry.caseId || load())));

	async function load() {
		try {
			const query = { km: km(far) || undefined, worked_on: workedOn };
			const params = { path: { vehicle_id: id }, query };
			road = await ask(api.GET('/api/vehicles/{vehicle_id}/road', { params }));
			wrong = '';
		} catch (error) {
			wrong = wordsOf(error);
		}
	}
</script>

<svelte:head><title>{road?.vehicle_label ?? 'A vehicle'} on the road · Hematite</title></svelte:head>

{#if wrong}<Notice level="stop">{wrong}</Notice>{/if}
{#if road}
	<div class="flex flex-wrap items-center justify-between gap-3 pb-3">
		<h1>{road.vehicle_label} on the road</h1>
		<Button href="/vehicles/{id}">Back to the vehicle</Button>
	</div>
	<div class="grid gap-6 wide:grid-cols-2">
		<div class="grid content-start gap-5">
			<StopPads vehicle={id} {road} onfelt={() => void load()} />
			<section class="plate grid gap-2" aria-label="Where to stop">
				<h2>Where to stop</h2>
				<Figure label="How far it goes" bind:value={far} of="distance" above={0} />
				<Tick label="A hub was opened before this trip" bind:checked={workedOn} />
				{#if road.stops_km.length}
					<p>
						Feel every hub after <b>{road.stops_km.map((one) => distance(one)).join(', ')}</b>.
					</p>
				{/if}
				<p class="text-faded">
					Early once, then with every rest. What was opened is felt earlier. Common practice; the distances
					are judgement.
				</p>
			</section>
		</div>
		<section class="grid content-start gap-3" aria-label="Kit">
			<h2>What goes along</h2>
			<KitList kit={road.kit} vehicle={id} />
		</section>
	</div>
{/if}
