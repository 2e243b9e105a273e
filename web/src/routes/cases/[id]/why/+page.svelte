<script lang="ts">
	import HubChooser from '$lib/case/HubChooser.svelte';
	import { useCase } from '$lib/case/case.svelte';
	import { chosenHub } from '$lib/case/hub.svelte';
	import Witnesses from '$lib/case/Witnesses.svelte';
	import { percent } from '$lib/shown.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Notice from '$lib/ui/Notice.svelte';

	const held = useCase();
	const hub = $derived(chosenHub(held, held.assessment?.decision.hub));
	const judged = $derived(held.assessment?.hubs[hub]);
	const clashes = $derived((held.assessment?.contradictions ?? []).filter((row) => row.hub === hub));
	const overturners = $derived(held.assessment?.overturned_by ?? []);
	const notes = $derived(
		Object.fromEntries(
			Object.entries(held.assessment?.hubs ?? {}).map(([id, row]) => [
				id,
				`${percent(row.probability)} ${row.standing_label}`
			])
		)
	);
</script>

{#if judged}
	<div class="grid gap-6 wide:grid-cols-[2fr_3fr]">
		<section class="grid content-start gap-4">
			<h1>Why <span class="font-mono">{hub}</span>?</h1>
			<p class="flex items-baseline gap-3">
				<span class="figure">{percent(judged.bearing_fault)}</span> a bearing fault here
			</p>
			<HubChooser selected={hub} {notes} />
			{#each clashes as clash (clash.hub)}
				<Notice level="warn">
					<b>Two witnesses pull apart.</b> “{clash.speaks_for}” speaks for it, “{clash.speaks_against}”
					against. Look at both again before you act; neither is averaged away.
				</Notice>
			{/each}
			<section class="plate grid gap-2" aria-label="What would overturn it">
				<h2>What would overturn it</h2>
				{#each overturners as fact (fact.words + fact.hub)}
					<p>
						<b>{fact.hub ?? ''}</b>
						{fact.words}.
						<span class="text-faded"
							>Likely to {percent(fact.chance)}; it would leave {percent(fact.leaves)}.</span
						>
					</p>
				{:else}
					<p class="text-faded">
						{held.assessment?.culprits.length
							? 'No single fact that is at all likely.'
							: 'Nothing is certain enough yet to be overturned.'}
					</p>
				{/each}
			</section>
			<div><Button look="main" href="/cases/{held.id}/decide?hub={hub}">Decide {hub}</Button></div>
		</section>
		<Witnesses {hub} {judged} />
	</div>
{/if}
