<script lang="ts">
	import { api, ask } from '$lib/api/client';
	import { length, mm } from '$lib/shown.svelte';
	import Figure from '$lib/ui/Figure.svelte';
	import SumForm from '$lib/ui/SumForm.svelte';

	let movement = $state<number | null>(null);
	let tyre = $state<number | null>(null);
	let hub = $state<number | null>(null);
	let found = $state<number | null>(null);

	async function work() {
		found = null;
		if (movement === null || tyre === null || hub === null) return;
		const body = { tyre_movement_mm: mm(movement), tyre_radius_mm: mm(tyre), hub_radius_mm: mm(hub) };
		found = (await ask(api.POST('/api/sums/lever', { body }))).hub_movement_mm;
	}
</script>

<div class="plate">
	<SumForm title="Movement seen at the tyre instead" verb="Work it out" {work}>
		{#snippet fields()}
			<p class="text-faded">Movement grows with radius: what shows at the tyre is less at the hub.</p>
			<div class="grid gap-3 sm:grid-cols-3">
				<Figure
					label="Seen at the tyre"
					bind:value={movement}
					of="length"
					least={0}
					needed="Give what was seen."
				/>
				<Figure label="Tyre radius" bind:value={tyre} of="length" above={0} needed="Give the radius." />
				<Figure label="Hub radius" bind:value={hub} of="length" above={0} needed="Give the radius." />
			</div>
		{/snippet}
		{#snippet answer()}
			{#if found !== null}<p>At the hub: <span class="font-mono text-2xl">{length(found)}</span></p>{/if}
		{/snippet}
	</SumForm>
</div>
