<script lang="ts">
	import type { Schemas } from '$lib/api/client';
	import { percent } from '$lib/shown.svelte';

	interface Props {
		/** What is believed of the vehicle now, after its jobs. */
		believed: Schemas['AssessmentOut'];
	}
	let { believed }: Props = $props();
	const hubs = $derived(Object.entries(believed.hubs)); // gravest first, as the core has them
</script>

<section class="plate grid gap-2" aria-label="As it stands now">
	<h2>As it stands now</h2>
	<p class="text-faded">
		By what was found since the job at the hubs worked on, and by what was found before at the others.
	</p>
	<ul class="grid gap-1">
		{#each hubs as [hub, judged] (hub)}
			<li class="grid grid-cols-[4rem_1fr] gap-2 {judged.standing === 'danger' ? 'text-oxide' : ''}">
				<span class="font-mono">{hub}</span>
				<span
					>{judged.standing_label}{#if judged.standing === 'culprit' || judged.standing === 'suspect'}:
						{judged.cause_label}, {percent(judged.probability)}{/if}</span
				>
			</li>
		{/each}
	</ul>
	<p>{believed.road.label}{believed.road.hub ? ` (${believed.road.hub})` : ''}</p>
</section>
