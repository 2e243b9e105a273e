<script lang="ts">
	import type { Schemas } from '$lib/api/client';
	import Figure from '$lib/ui/Figure.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import { fixed } from '$lib/units';
	import { clock, minutes, type Means } from './means';

	interface Props {
		job: Schemas['JobOut'];
		left: Schemas['StepOut'][];
		means: Means;
		onmeans: (means: Means) => void;
	}
	let { job, left, means, onmeans }: Props = $props();
	const day = $derived(job.day);
	const byHand = $derived(left.reduce((sum, step) => sum + step.minutes, 0));
	const early = $derived(left.filter((step) => day?.first.includes(step.id)));
	const hours = fixed('h', 1);
	// svelte-ignore state_referenced_locally
	let hands = $state<number | null>(means.hands ?? job.day?.hands ?? 1);
	// svelte-ignore state_referenced_locally
	let parts = $state<number | null>(means.parts_in_h ?? null);
	// svelte-ignore state_referenced_locally
	let press = $state<number | null>(means.press_in_h ?? null);
	const say = () =>
		onmeans({ hands: hands ?? undefined, parts_in_h: parts ?? undefined, press_in_h: press ?? undefined });
</script>

{#if day}
	<div class="grid gap-4">
		{#each day.blocked as words (words)}<Notice level="stop">{words}</Notice>{/each}
		<section class="grid gap-1">
			<h2>Done at the earliest</h2>
			<p class="figure">{left.length ? clock(day.end, day.opens_h) : 'Done'}</p>
			<p class="text-faded">
				{minutes(byHand)} by hand are left, for {day.hands === 1
					? 'one pair of hands'
					: `${day.hands} pairs of hands`}, open from {clock(0, day.opens_h)} to {clock(
					0,
					day.closes_h
				)}.{day.proven ? '' : ' A better order may exist.'} Minutes are a rule of thumb.
			</p>
		</section>
		{#if early.length}
			<section class="grid gap-1">
				<h2>Start these early: they wait by themselves</h2>
				<ul class="grid gap-1">
					{#each early as step (step.id)}
						<li>
							<span class="font-mono">{clock(step.start ?? 0, day.opens_h)}</span>
							{#if step.hub}<span class="font-mono">{step.hub}</span>{/if}
							{step.do}
							<span class="text-faded">({minutes(step.wait)} of {step.wait_for})</span>
						</li>
					{/each}
				</ul>
			</section>
		{/if}
		<form class="grid gap-3 sm:grid-cols-3" onchange={say} onsubmit={(event) => event.preventDefault()}>
			<Figure label="Pairs of hands" bind:value={hands} unit={fixed('', 0)} least={1} most={6} />
			<Figure label="Parts here in" bind:value={parts} unit={hours} least={0} />
			<Figure label="Press booked in" bind:value={press} unit={hours} least={0} />
		</form>
	</div>
{/if}
