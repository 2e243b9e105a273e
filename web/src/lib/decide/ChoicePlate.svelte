<script lang="ts">
	import { ArrowRight } from '@lucide/svelte';
	import type { Schemas } from '$lib/api/client';
	import { inUnits, percent } from '$lib/shown.svelte';
	import Button from '$lib/ui/Button.svelte';

	interface Props {
		hub: string;
		judged: Schemas['HubJudgement'];
		/** Where the test that would settle it is done; none on a frozen verdict. */
		settleHref?: string;
	}
	let { hub, judged, settleHref }: Props = $props();
</script>

<section
	class="plate grid gap-3 {['culprit', 'danger'].includes(judged.standing) || judged.off_road
		? 'border-l-oxide'
		: ''}"
	aria-label="Advice"
>
	<h1 class="text-3xl">
		<span class="font-mono">{hub}</span>: {judged.cause === 'sound'
			? judged.standing_label
			: judged.cause_label}
	</h1>
	{#if judged.cause !== 'sound'}
		<p class="flex flex-wrap items-baseline gap-x-3">
			<span class="figure">{percent(judged.probability)}</span> likely
			{#if judged.cause === 'bearing' && judged.mechanism_label}
				<span class="text-faded"
					>most of it {judged.mechanism_label}, {percent(judged.mechanism_probability)}</span
				>
			{/if}
		</p>
	{/if}
	<div class="grid gap-1 border-t border-groove pt-3">
		<p class="text-faded">{judged.settled ? 'To do' : 'Not settled yet; most likely right'}</p>
		<p class="text-2xl leading-tight font-bold {judged.off_road ? 'text-oxide' : ''}">
			{judged.choice_label}
		</p>
		{#if !judged.settled}<p>Right in {percent(judged.choice_probability)} of cases like this.</p>{/if}
	</div>
	<p>{inUnits(judged.because)}</p>
	{#each judged.also_because as rule (rule.id)}<p>
			{inUnits(rule.because)} <span class="text-faded">({percent(rule.share)})</span>
		</p>{/each}
	{#each judged.overruled as rule (rule.id)}
		<p class="text-faded">Overruled: {inUnits(rule.because)}</p>
	{/each}
	{#if judged.then}<p><span class="text-faded">Then:</span> {judged.then}</p>{/if}
	{#if judged.also.length}
		<div>
			<h2>With it</h2>
			<ul class="grid list-disc gap-1 pl-5">
				{#each judged.also as words (words)}<li>{words}</li>{/each}
			</ul>
		</div>
	{/if}
	{#if settleHref && judged.settle}
		<div class="grid gap-2 border-t border-groove pt-3">
			<p>
				<span class="text-faded">This would settle it:</span>
				{judged.settle.label}. {inUnits(judged.settle.why)}
			</p>
			<div><Button href={settleHref} hotkey="n">Do that first<ArrowRight aria-hidden="true" /></Button></div>
		</div>
	{/if}
	<p><span class="text-faded">What would change it:</span> {inUnits(judged.would_change)}</p>
</section>
