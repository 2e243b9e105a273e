<script lang="ts">
	import { useCase } from '$lib/case/case.svelte';
	import { chosenHub } from '$lib/case/hub.svelte';
	import HubChooser from '$lib/case/HubChooser.svelte';
	import { session } from '$lib/session.svelte';
	import StepSums from '$lib/sums/StepSums.svelte';

	const held = useCase();
	const hub = $derived(chosenHub(held, held.assessment?.decision.hub));
	const NUT = ['nut', 'slots', 'setting'];
	/** At a practice hub a nut is set; the other sums would only be in the way. */
	const keys = $derived(held.detail?.practice ? NUT : (session.reference?.sums ?? []).map((row) => row.key));
</script>

<div class="grid gap-4 wide:grid-cols-[2fr_1fr]">
	<section class="grid content-start gap-3">
		<h1>Setting bench: {hub}</h1>
		{#if !held.detail?.practice}<p class="text-faded">
				Every sum, filled with what is known of this hub. What is kept stays with the case and the vehicle.
			</p>{/if}
		{#key hub}<StepSums {hub} step="" {keys} />{/key}
	</section>
	<section class="grid content-start gap-3"><HubChooser selected={hub} notes={{}} /></section>
</div>
