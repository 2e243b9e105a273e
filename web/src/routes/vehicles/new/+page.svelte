<script lang="ts">
	import { goto } from '$app/navigation';
	import type { Schemas } from '$lib/api/client';
	import { outbox } from '$lib/outbox/outbox.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import VehicleForm from '$lib/vehicle/VehicleForm.svelte';

	/** Made here, so that saving twice adds one vehicle. */
	const id = crypto.randomUUID();
	const waits = $derived(outbox.of(id));
	async function add(data: Schemas['VehicleIn']) {
		const entry = {
			id,
			caseId: '',
			label: data.label,
			kind: 'write',
			method: 'POST',
			to: '/api/vehicles'
		} as const;
		if ((await outbox.enter({ ...entry, body: { ...data, id } })) === 'sent') await goto(`/vehicles/${id}`);
	}
</script>

<svelte:head><title>New vehicle · Hematite</title></svelte:head>
<h1 class="pb-4">New vehicle</h1>
{#if waits}
	<Notice level="warn">{waits.label} is kept on this device and added when the server is back.</Notice>
{:else}
	<VehicleForm onsave={add} />
{/if}
