<script lang="ts">
	import type { Schemas } from '$lib/api/client';
	import { moment } from '$lib/dates';
	import { outbox } from '$lib/outbox/outbox.svelte';
	import { inUnits } from '$lib/shown.svelte';
	import Button from '$lib/ui/Button.svelte';
	import AnswerPad from './AnswerPad.svelte';
	import StateWord from './StateWord.svelte';
	import { byWhen, expected } from './when';

	interface Props {
		row: Schemas['PlannedOut'];
		/** How it is answered; without it the row leads to its vehicle. */
		ask?: Schemas['AskOut'];
		onanswered?: () => void;
	}
	let { row, ask, onanswered }: Props = $props();
	let open = $state(false);
	const edge = $derived(
		row.state === 'overdue'
			? 'border-l-oxide'
			: row.state === 'due' || row.state === 'soon'
				? 'border-l-ochre'
				: ''
	);
	const waiting = $derived(outbox.writes(`/api/rechecks/${row.id}/answer`).length > 0);
	const soonWords = $derived(expected(row));
</script>

{#snippet said()}
	<span class="flex flex-wrap items-baseline justify-between gap-x-3">
		<b
			>{#if !ask}{row.vehicle_label}:{/if}
			{#if row.hub}<span class="font-mono">{row.hub}</span>{/if}
			{inUnits(row.label)}</b
		>
		<StateWord state={row.state} label={row.state_label} />
	</span>
	{#if row.done_at}
		<span class="block">{row.said}</span>
		<span class="block text-faded">{row.done_by}, {moment(row.done_at)}</span>
	{:else}
		<span class="block">{byWhen(row)}</span>
		{#if soonWords}<span class="block text-faded">{soonWords}</span>{/if}
		<span class="block text-faded">{inUnits(row.why)}</span>
	{/if}
{/snippet}

<li class="plate py-2 {edge}">
	{#if ask}
		{@render said()}
		{#if row.opened}
			<div class="pt-2"><Button href="/cases/{row.opened}">The case that it opened</Button></div>
		{:else if waiting}
			<p class="pt-2">Answered; it is sent when the server is back.</p>
		{:else if !row.done_at}
			{#if open}
				<AnswerPad {row} {ask} onanswered={() => ((open = false), onanswered?.())} />
			{:else}
				<div class="pt-2"><Button onclick={() => (open = true)}>Look now</Button></div>
			{/if}
		{/if}
	{:else}
		<a href="/vehicles/{row.vehicle}#coming-back" class="block min-h-12">{@render said()}</a>
	{/if}
</li>
