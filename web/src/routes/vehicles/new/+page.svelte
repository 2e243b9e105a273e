<script lang="ts">
	import { goto } from '$app/navigation';
	import { api, ask, type Schemas } from '$lib/api/client';
	import VehicleForm from '$lib/vehicle/VehicleForm.svelte';

	async function add(body: Schemas['VehicleIn']) {
		const vehicle = await ask(api.POST('/api/vehicles', { body }));
		await goto(`/vehicles/${vehicle.id}`);
	}
</script>

<svelte:head><title>New vehicle · Hematite</title></svelte:head>
<h1 class="pb-4">New vehicle</h1>
<VehicleForm onsave={add} />
