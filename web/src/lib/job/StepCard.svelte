<script lang="ts">
	import { Eye } from '@lucide/svelte';
	import type { Snippet } from 'svelte';
	import type { Schemas } from '$lib/api/client';
	import HubName from '$lib/case/HubName.svelte';
	import { inUnits } from '$lib/shown.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import StepPicture from './StepPicture.svelte';

	/** One step, to be read at arm's length: what to do, what shows that it is right, the caution that belongs to it. */
	interface Props {
		step: Schemas['StepOut'];
		n: number;
		of: number;
		/** The figure of this step, between what is done and what shows it. */
		children: Snippet;
	}
	let { step, n, of, children }: Props = $props();
</script>

<article class="plate grid gap-3 {step.done ? '' : 'border-l-blued'}" aria-label="Step {n} of {of}">
	<p class="flex flex-wrap items-baseline gap-x-3 text-faded">
		<span class="font-semibold text-print">{step.act_words}</span>
		{#if step.hub}<HubName hub={step.hub} />{:else}<span>the whole vehicle</span>{/if}
		{#if step.where_words}<span>{step.where_words}</span>{/if}
		<span class="ml-auto font-mono">{n}/{of}</span>
	</p>
	<div class="grid gap-3 {step.picture ? 'sm:grid-cols-[1fr_auto]' : ''}">
		<div class="grid content-start gap-3">
			<p class="text-xl leading-snug font-semibold">{inUnits(step.do)}</p>
			{@render children()}
		</div>
		{#if step.picture}
			<figure class="grid content-start justify-items-center">
				<StepPicture picture={step.picture} star={step.torque?.star ?? []} />
				{#if step.picture === 'star' && !step.torque?.count}<figcaption class="text-faded">
						{step.torque?.star.length} taken: nobody counted them
					</figcaption>{/if}
			</figure>
		{/if}
	</div>
	{#if step.see}
		<p class="flex gap-2"><Eye class="mt-0.5 shrink-0" aria-hidden="true" />{inUnits(step.see)}</p>
	{/if}
	{#each step.cautions as caution (caution)}<Notice level="warn">{inUnits(caution)}</Notice>{/each}
	{#if step.tools.length || step.uses.length}
		<p class="text-faded">{[...step.tools, ...step.uses].join(' · ')}</p>
	{/if}
</article>
