<script lang="ts">
	import type { Schemas } from '$lib/api/client';
	import Balance from '$lib/case/Balance.svelte';
	import { useCase } from '$lib/case/case.svelte';
	import { session } from '$lib/session.svelte';
	import { percent } from '$lib/shown.svelte';

	let { hub, judged }: { hub: string; judged: Schemas['HubJudgement'] } = $props();
	const held = useCase();
	const plot = import('$lib/sound/OrderPlot.svelte');
	const recording = $derived(
		held.recordings
			.filter((row) => row.place === hub && row.usable && !row.withdrawn && !row.after_repair)
			.at(-1)
	);
	const mechanisms = $derived(Object.entries(judged.named));
</script>

<section class="grid content-start gap-4" aria-label="Why">
	<Balance {hub} {judged} />
	{#if judged.cause === 'bearing' && mechanisms.length}
		<p>
			<span class="text-faded">In the bearing:</span>
			{#each mechanisms as [name, share], n (name)}{n ? ', ' : ''}{session.words('causes', name)}
				{percent(share)}{/each}
		</p>
	{/if}
	{#if recording}
		{#await plot then { default: OrderPlot }}{#key recording.id}<OrderPlot {recording} />{/key}{/await}
		<audio controls preload="none" src="/api/recordings/{recording.id}/audio" class="w-full"></audio>
	{/if}
</section>
