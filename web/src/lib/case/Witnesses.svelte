<script lang="ts">
	import type { Schemas } from '$lib/api/client';
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
	const mechanisms = $derived(
		Object.entries(judged.mechanisms)
			.filter(([, share]) => share >= 0.02)
			.sort((a, b) => b[1] - a[1])
	);

	/** Bits as a plain word: one bit doubles the odds. */
	function weight(bits: number): string {
		const times = 2 ** Math.abs(bits);
		if (times < 1.15) return 'hardly moves it';
		const much = times < 10 ? times.toFixed(1) : times.toFixed(0);
		return bits > 0 ? `× ${much} for a bearing fault` : `÷ ${much}, against a bearing fault`;
	}
</script>

<section class="grid content-start gap-4" aria-label="Why">
	<h2>Why: what each witness did to the odds</h2>
	<ul class="grid gap-2">
		{#each judged.witnesses as row (row.witness + row.source)}
			<li class="plate {row.bits > 0 ? 'border-l-oxide' : ''}">
				<details>
					<summary class="min-h-12 cursor-pointer">
						<b>{row.words}</b>
						<span class="block pl-4 text-faded">{row.label}: {weight(row.bits)}</span>
					</summary>
					<p class="pt-2">{row.why}</p>
					<p class="text-faded">
						{row.standing}. Certain to {percent(row.share)}; {row.bits > 0 ? '+' : ''}{row.bits} bits.
					</p>
				</details>
			</li>
		{:else}
			<li class="plate">No witness has spoken about {hub} yet. Record it, rock it or spin it.</li>
		{/each}
	</ul>
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
