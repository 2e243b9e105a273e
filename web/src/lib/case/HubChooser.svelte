<script lang="ts">
	import { goto } from '$app/navigation';
	import VehiclePlan from '$lib/vehicle/VehiclePlan.svelte';
	import { useCase } from './case.svelte';
	import { withHub } from './hub.svelte';

	/** Chooses the hub that the screen is about; the choice stands in the address. */
	let { selected, notes = {} }: { selected: string; notes?: Record<string, string> } = $props();
	const held = useCase();

	function choose(hub: string) {
		void goto(withHub(hub), { replaceState: true, keepFocus: true, noScroll: true });
	}
</script>

{#if held.detail}
	<VehiclePlan vehicle={held.detail.vehicle_detail} {selected} {notes} onselect={choose} compact />
{/if}
