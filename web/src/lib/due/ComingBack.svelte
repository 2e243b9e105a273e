<script lang="ts">
	import { Droplets, Printer } from '@lucide/svelte';
	import { api, ask, wordsOf, type Schemas } from '$lib/api/client';
	import { outbox } from '$lib/outbox/outbox.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import DueRow from './DueRow.svelte';
	import Odometer from './Odometer.svelte';

	/** A vehicle's odometer, what is to be looked at again, and what was. */
	let { vehicle }: { vehicle: string } = $props();
	let upkeep = $state.raw<Schemas['UpkeepOut'] | null>(null);
	let wrong = $state('');

	$effect(() => void load(vehicle));
	$effect(() => outbox.onSent((entry) => void (entry.caseId || load(vehicle))));
	async function load(vehicle_id: string) {
		try {
			const params = { path: { vehicle_id } };
			const found = await ask(api.GET('/api/vehicles/{vehicle_id}/upkeep', { params }));
			if (vehicle_id === vehicle) upkeep = found;
		} catch (error) {
			wrong = wordsOf(error);
		}
	}
	const left = $derived(upkeep?.rechecks.filter((row) => !row.done_at) ?? []);
	const done = $derived(upkeep?.rechecks.filter((row) => row.done_at) ?? []);
	const askOf = (row: Schemas['PlannedOut']) => upkeep?.asks.find((one) => one.key === row.asks);

	async function throughWater() {
		const id = crypto.randomUUID();
		const to = `/api/vehicles/${vehicle}/events`;
		const label = 'Through water just now';
		try {
			const body = { id, duty: 'water' };
			await outbox.enter({ id, caseId: '', label, kind: 'write', method: 'POST', to, body });
			await load(vehicle);
		} catch (error) {
			wrong = wordsOf(error);
		}
	}
</script>

{#if wrong}<Notice level="stop">{wrong}</Notice>{/if}
{#if upkeep}
	<section class="grid gap-2" aria-label="To be looked at again" id="coming-back">
		<h2>To be looked at again</h2>
		{#if left.length}
			<ul class="grid gap-2">
				{#each left as row (row.id)}<DueRow
						{row}
						ask={askOf(row)}
						onanswered={() => void load(vehicle)}
					/>{/each}
			</ul>
		{:else}
			<p class="plate">Nothing is due. A closed case plans what is looked at again.</p>
		{/if}
		<div class="flex flex-wrap gap-2">
			<Button onclick={() => void throughWater()}
				><Droplets aria-hidden="true" />Through water just now</Button
			>
			<Button href="/api/vehicles/{vehicle}/sticker.pdf"><Printer aria-hidden="true" />Sticker</Button>
		</div>
		{#if done.length}
			<details>
				<summary class="min-h-12 content-center font-semibold">Looked at, {done.length}</summary>
				<ul class="grid gap-2">
					{#each done as row (row.id)}<DueRow {row} ask={askOf(row)} />{/each}
				</ul>
			</details>
		{/if}
	</section>
	<Odometer {vehicle} {upkeep} onread={() => void load(vehicle)} />
{/if}
