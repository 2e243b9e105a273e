<script lang="ts">
	import { goto } from '$app/navigation';
	import type { Schemas } from '$lib/api/client';
	import { session } from '$lib/session.svelte';
	import { outbox } from '$lib/outbox/outbox.svelte';
	import Waits from '$lib/outbox/Waits.svelte';
	import AxleGlyph from '$lib/vehicle/AxleGlyph.svelte';
	import VehicleForm from '$lib/vehicle/VehicleForm.svelte';

	let kind = $state.raw<Schemas['KindOut'] | undefined>();
	/** Wheels of an axle as the small plan draws them. */
	const sides = (wheels: number) => (wheels === 1 ? ['C'] : Array.from({ length: wheels }, () => ''));

	/** Made here, so that saving twice adds one vehicle. */
	const id = crypto.randomUUID();
	/** Said once it is known: the form, with what was typed, stays until then. */
	let waits = $state(false);
	async function add(data: Schemas['VehicleIn']) {
		const entry = {
			id,
			caseId: '',
			label: data.label,
			kind: 'write',
			method: 'POST',
			to: '/api/vehicles'
		} as const;
		waits = (await outbox.enter({ ...entry, body: { ...data, id } })) === 'waits';
		if (!waits) await goto(`/vehicles/${id}`);
	}
</script>

<svelte:head><title>New vehicle · Hematite</title></svelte:head>
<h1 class="pb-4">New vehicle</h1>
{#if waits}
	<Waits entries={outbox.writes('/api/vehicles')} what="The vehicle"
		>It is added when the server is back.</Waits
	>
{:else}
	<div class="grid gap-4">
		<div class="flex flex-wrap gap-2" role="group" aria-label="What it is">
			{#each session.reference?.kinds ?? [] as one (one.key)}
				<button
					type="button"
					aria-pressed={kind?.key === one.key}
					onclick={() => (kind = one)}
					class="plate flex min-h-14 items-center gap-3 px-3 py-1 text-left aria-pressed:border-l-blued aria-pressed:bg-blued aria-pressed:text-on-blued"
					><AxleGlyph axles={one.axles.map((axle) => sides(axle.wheels))} />{one.words}</button
				>
			{/each}
		</div>
		{#key kind?.key}<VehicleForm {kind} onsave={add} />{/key}
	</div>
{/if}
