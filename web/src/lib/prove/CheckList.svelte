<script lang="ts">
	import { inUnits } from '$lib/shown.svelte';
	import type { Schemas } from '$lib/api/client';
	import { useCase } from '$lib/case/case.svelte';
	import Choice from '$lib/ui/Choice.svelte';

	interface Props {
		/** What is to be proven by hand, each beside what was found before. */
		checks: Schemas['CheckOut'][];
		hub: string;
		/** The verdict whose job is proven. */
		job: string;
		onlogged: () => void;
	}
	let { checks, hub, job, onlogged }: Props = $props();
	const held = useCase();

	async function answer(check: Schemas['CheckOut'], said: string) {
		const label = `${hub}: ${check.label}, ${check.words[said] ?? said}`;
		await held.observe(hub, 'check', { check: check.key, answer: said }, label, job);
		onlogged();
	}
	/** What was said of it: as the server has it, or as it waits on this device. */
	const said = (check: Schemas['CheckOut']) =>
		String(held.standing(hub, 'check', check.key, job)?.value.answer ?? check.answer);
</script>

<ul class="grid gap-3">
	{#each checks as check (check.key)}
		<li class="plate grid gap-2 {said(check) === 'bad' ? 'border-l-oxide' : ''}">
			<p class="text-xl leading-tight font-semibold">{inUnits(check.label)}</p>
			<p>{check.ask}{check.later ? '; can wait for the first drive' : ''}.</p>
			{#if check.before.length}
				<p>
					<span class="text-faded">Before{check.convicting ? ', what convicted it' : ''}:</span>
					{check.before.join('; ')}
				</p>
			{/if}
			<Choice
				label={inUnits(check.label)}
				row
				options={Object.entries(check.words).map(([key, words]) => ({ key, words }))}
				value={said(check)}
				onchange={(key) => void answer(check, key)}
				disabled={held.closed}
			/>
		</li>
	{/each}
</ul>
