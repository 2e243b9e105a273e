<script lang="ts">
	import { decimal } from '$lib/numbers';
	import type { Schemas } from '$lib/api/client';
	import { inUnits, percent } from '$lib/shown.svelte';
	import { useCase } from './case.svelte';

	let { hub, judged }: { hub: string; judged: Schemas['HubJudgement'] } = $props();
	const held = useCase();
	const most = $derived(Math.max(2, ...judged.witnesses.map((row) => Math.abs(row.bits))));

	const heavy = $derived(judged.witnesses.filter((row) => !row.hardly));
	const light = $derived(judged.witnesses.filter((row) => row.hardly));

	/** Where a witness comes from: a recording to hear, or an entry of the log with who made it. */
	function origin(source: string): { href?: string; words: string } {
		if (held.recordings.some((row) => row.id === source))
			return { href: `/cases/${held.id}/bench?recording=${source}`, words: 'hear the recording' };
		const entry = held.detail?.observations.find((row) => row.id === source);
		return { words: entry ? `${entry.person}${entry.hub ? `, at ${entry.hub}` : ''}` : '' };
	}
	/** Bits as plain words: one bit doubles the odds. */
	function weight({ bits, hardly }: Schemas['WitnessOut']): string {
		const times = 2 ** Math.abs(bits);
		return hardly ? 'hardly moves it' : `${bits > 0 ? '×' : '÷'} ${decimal(times, times < 10 ? 1 : 0)}`;
	}
</script>

<section class="grid content-start gap-3" aria-label="Witnesses weighed">
	<h2>Witnesses at {hub}, by weight</h2>
	<p class="grid grid-cols-2 text-faded">
		<span>◀ against a bearing fault</span><span class="text-right">for it ▶</span>
	</p>
	{#snippet witness(row: Schemas['WitnessOut'])}
		{@const from = origin(row.source)}
		<li class="plate grid gap-1">
			<div class="grid h-4 grid-cols-2" aria-hidden="true">
				<div class="flex justify-end border-r-2 border-print">
					{#if row.bits < 0}<div
							class="h-full border-2 border-faded"
							style:width="{(Math.abs(row.bits) / most) * 100}%"
						></div>{/if}
				</div>
				<div>
					{#if row.bits > 0}<div class="h-full bg-oxide" style:width="{(row.bits / most) * 100}%"></div>{/if}
				</div>
			</div>
			<p class="grid grid-cols-[1fr_auto] gap-x-3">
				<span><b>{row.words}</b> <span class="text-faded">({row.label})</span></span>
				<span class="font-mono">{weight(row)}</span>
			</p>
			<p class="flex flex-wrap items-center gap-x-4 text-faded">
				{#if from.href}<a
						class="flex min-h-12 items-center text-print underline underline-offset-4"
						href={from.href}>{from.words}</a
					>{:else}<span>{from.words}</span>{/if}
			</p>
			<details>
				<summary class="cursor-pointer py-2">{inUnits(row.why)}</summary>
				<p class="text-faded">
					{row.standing}. Certain to {percent(row.share)}; {row.bits > 0 ? '+' : ''}{row.bits} bits.
				</p>
			</details>
		</li>
	{/snippet}
	<ul class="grid gap-2">
		{#each heavy as row (row.witness + row.source)}{@render witness(row)}{:else}
			<li class="plate">No witness has said anything of weight about {hub} yet.</li>
		{/each}
	</ul>
	{#if light.length}
		<details>
			<summary class="min-h-12 cursor-pointer py-2">{light.length} more that hardly move it</summary>
			<ul class="grid gap-2 pt-2">
				{#each light as row (row.witness + row.source)}{@render witness(row)}{/each}
			</ul>
		</details>
	{/if}
</section>
