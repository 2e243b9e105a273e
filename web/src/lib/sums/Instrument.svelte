<script lang="ts">
	import { untrack } from 'svelte';
	import type { Schemas } from '$lib/api/client';
	import { moment } from '$lib/dates';
	import { inUnits } from '$lib/shown.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import AnswerLine from './AnswerLine.svelte';
	import SumFields from './SumFields.svelte';
	import type { SumState } from './sum.svelte';

	/** One sum as an instrument: its drawing, its line at arm's length, few fields, and the working one tap behind. */
	interface Props {
		state: SumState;
		/** What was worked out with it here before. */
		last?: Schemas['WorkedOut'] | null;
		/** Keeps it with the step, the case and the vehicle. */
		onkeep?: () => void;
	}
	let { state: of, last, onkeep }: Props = $props();
	const fields = $derived(of.sum.fields.filter((row) => !row.more || wanted.includes(row.key)));
	const more = $derived(of.sum.fields.filter((row) => row.more && !wanted.includes(row.key)));
	const wanted = $derived(of.answer?.missing ?? []);

	$effect(() => {
		void of;
		untrack(() => void of.work());
	});
</script>

<section class="grid gap-3" aria-label={of.sum.label}>
	<!-- It keeps its room: an answer that comes while a thumb goes down moves no field away from under it. -->
	<div class="grid min-h-56 content-start">
		{#if of.wrong}
			<Notice level="stop">{inUnits(of.wrong)}</Notice>
		{:else if of.answer}
			<AnswerLine sum={of.sum} answer={of.answer} />
		{/if}
	</div>
	<SumFields {fields} values={of.values} onset={(key, value) => of.set(key, value)} />
	{#if more.length}
		<details>
			<summary class="flex min-h-12 cursor-pointer items-center">More that it rests on</summary>
			<SumFields fields={more} values={of.values} onset={(key, value) => of.set(key, value)} />
		</details>
	{/if}
	{#if of.answer?.working.length}
		<details>
			<summary class="flex min-h-12 cursor-pointer items-center">The working</summary>
			<dl class="grid gap-1">
				{#each of.answer.working as row (row.label + row.words)}
					<div class="flex flex-wrap gap-x-3">
						<dt class="text-faded">{row.label}</dt>
						<dd>{inUnits(row.words)}</dd>
					</div>
				{/each}
			</dl>
			<p class="pt-2 text-faded">{of.sum.source}</p>
		</details>
	{/if}
	{#if onkeep}
		<div class="flex flex-wrap items-center gap-3">
			<Button onclick={onkeep} disabled={!of.answer?.line || of.answer.level === 'ask' || Boolean(of.wrong)}
				>Keep this sum</Button
			>
			{#if last}<span class="text-faded">Last: {inUnits(last.line)} ({last.person}, {moment(last.at)})</span
				>{/if}
		</div>
	{/if}
</section>
