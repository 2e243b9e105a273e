<script lang="ts">
	import { api, ask } from '$lib/api/client';
	import { length, mmOf, unitLabel } from '$lib/shown.svelte';
	import Field from '$lib/ui/Field.svelte';
	import SumForm from '$lib/ui/SumForm.svelte';
	import { typed } from '$lib/units';

	let movement = $state('');
	let tyre = $state('');
	let hub = $state('');
	let found = $state<number | null>(null);
	const unit = $derived(unitLabel('length'));

	async function work() {
		found = null;
		const body = {
			tyre_movement_mm: mmOf(typed(movement)),
			tyre_radius_mm: mmOf(typed(tyre)),
			hub_radius_mm: mmOf(typed(hub))
		};
		found = (await ask(api.POST('/api/sums/lever', { body }))).hub_movement_mm;
	}
</script>

<div class="plate">
	<SumForm title="Movement seen at the tyre instead" verb="Work it out" {work}>
		{#snippet fields()}
			<p class="text-faded">Movement grows with radius: what shows at the tyre is less at the hub.</p>
			<div class="grid gap-3 sm:grid-cols-3">
				<Field label="Seen at the tyre" bind:value={movement} {unit} numeric />
				<Field label="Tyre radius" bind:value={tyre} {unit} numeric />
				<Field label="Hub radius" bind:value={hub} {unit} numeric />
			</div>
		{/snippet}
		{#snippet answer()}
			{#if found !== null}<p>At the hub: <span class="font-mono text-2xl">{length(found)}</span></p>{/if}
		{/snippet}
	</SumForm>
</div>
