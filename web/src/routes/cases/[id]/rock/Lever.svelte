<script lang="ts">
	import { api, ask, wordsOf } from '$lib/api/client';
	import { length, mmOf, unitLabel } from '$lib/shown.svelte';
	import { typed } from '$lib/units';
	import Button from '$lib/ui/Button.svelte';
	import Field from '$lib/ui/Field.svelte';
	import Notice from '$lib/ui/Notice.svelte';

	let movement = $state('');
	let tyre = $state('');
	let hub = $state('');
	let answer = $state('');
	let wrong = $state('');
	const unit = $derived(unitLabel('length'));

	async function work() {
		wrong = answer = '';
		try {
			const body = {
				tyre_movement_mm: mmOf(typed(movement)),
				tyre_radius_mm: mmOf(typed(tyre)),
				hub_radius_mm: mmOf(typed(hub))
			};
			answer = length((await ask(api.POST('/api/sums/lever', { body }))).hub_movement_mm);
		} catch (error) {
			wrong = wordsOf(error);
		}
	}
</script>

<details class="plate">
	<summary class="flex min-h-12 cursor-pointer items-center font-semibold"
		>Movement seen at the tyre instead</summary
	>
	<form
		class="grid gap-3 pt-2"
		onsubmit={(event) => {
			event.preventDefault();
			void work();
		}}
	>
		<p class="text-faded">Movement grows with radius: what shows at the tyre is less at the hub.</p>
		<div class="grid gap-3 sm:grid-cols-3">
			<Field label="Seen at the tyre" bind:value={movement} {unit} numeric />
			<Field label="Tyre radius" bind:value={tyre} {unit} numeric />
			<Field label="Hub radius" bind:value={hub} {unit} numeric />
		</div>
		<Button type="submit">Work it out</Button>
		{#if answer}<p>At the hub: <span class="font-mono text-2xl">{answer}</span></p>{/if}
		{#if wrong}<Notice level="stop">{wrong}</Notice>{/if}
	</form>
</details>
