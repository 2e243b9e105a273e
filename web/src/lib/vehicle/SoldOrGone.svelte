<script lang="ts">
	import { goto } from '$app/navigation';
	import { api, ask, type Schemas } from '$lib/api/client';
	import { day } from '$lib/dates';
	import { counted } from '$lib/numbers';
	import ForGood from '$lib/ui/ForGood.svelte';
	import Pick from '$lib/ui/Pick.svelte';

	/** For owners: a vehicle that is sold, a case that should not be here, a vehicle that goes with all its cases. */
	interface Props {
		vehicle: Schemas['VehicleOut'];
		cases: Schemas['CaseBrief'][];
		onchange: () => Promise<void>;
	}
	let { vehicle, cases, onchange }: Props = $props();
	let chosen = $state('');
	const params = $derived({ path: { vehicle_id: vehicle.id } });
	const options = $derived(
		cases.map((row) => ({ key: row.id, words: `${day(row.opened_at)} ${row.complaint || 'opened'}` }))
	);
	async function sold() {
		await ask(api.POST('/api/vehicles/{vehicle_id}/sold', { params }));
		await onchange();
	}
	async function deleteCase() {
		await ask(api.POST('/api/cases/{case_id}/delete', { params: { path: { case_id: chosen } } }));
		chosen = '';
		await onchange();
	}
	async function deleteVehicle() {
		await ask(api.POST('/api/vehicles/{vehicle_id}/delete', { params }));
		await goto('/');
	}
</script>

<details class="plate">
	<summary class="min-h-12 cursor-pointer content-center">Sold, or to be deleted</summary>
	<div class="grid justify-items-start gap-4 pt-2">
		<ForGood
			label="It is sold: forget whose it was"
			words="Its name, its plate and what drivers said go. What was found and done stays, and counts for the fleet. Bundles and backups that were made before still have them."
			act={sold}
		/>
		{#if options.length}
			<div class="flex flex-wrap items-end gap-2">
				<div class="min-w-64">
					<Pick label="One case" {options} bind:value={chosen} />
				</div>
				{#if chosen}
					<ForGood
						label="Delete this case"
						words="All that was found, recorded, photographed and decided in it goes."
						act={deleteCase}
					/>
				{/if}
			</div>
		{/if}
		<ForGood
			label="Delete the vehicle with all its cases"
			words="{vehicle.label} goes with {counted(cases.length, [
				'1 case',
				'# cases'
			])}, their sounds and photographs, and every reading. Take it along first if somebody may ask for it."
			act={deleteVehicle}
		/>
	</div>
</details>
