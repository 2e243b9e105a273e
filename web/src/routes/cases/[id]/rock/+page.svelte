<script lang="ts">
	import HubChooser from '$lib/case/HubChooser.svelte';
	import HubName from '$lib/case/HubName.svelte';
	import SameElsewhere from '$lib/case/SameElsewhere.svelte';
	import TestEntry from '$lib/case/TestEntry.svelte';
	import { useCase } from '$lib/case/case.svelte';
	import { entryWords } from '$lib/case/entry.svelte';
	import { chosenHub } from '$lib/case/hub.svelte';
	import { session } from '$lib/session.svelte';
	import Choice from '$lib/ui/Choice.svelte';
	import HowTo from '$lib/case/HowTo.svelte';
	import Lever from './Lever.svelte';

	const held = useCase();
	const hub = $derived(chosenHub(held));
	const fitting = $derived(
		(session.reference?.witnesses ?? []).filter(
			(row) =>
				row.stage === 'rock' && row.key !== 'end_play' && held.assessment?.tests[hub]?.includes(row.key)
		)
	);
	let chosen = $state('rock_12_6');
	const row = $derived(fitting.find((one) => one.key === chosen) ?? fitting[0]);
	const notes = $derived(
		Object.fromEntries(
			held.hubs.map((one) => [
				one.id,
				held.saidHere(one.id, chosen) ??
					entryWords(held.standing(one.id, 'end_play')) ??
					entryWords(held.standing(one.id, chosen)) ??
					'not rocked yet'
			])
		)
	);
</script>

<!-- On a phone the hand’s answers stand under the hubs, the dial below them. -->
<div class="grid gap-4 wide:grid-cols-2 wide:grid-rows-[auto_1fr] wide:gap-6">
	<section class="grid content-start gap-3">
		<h1>Play at <HubName {hub} /></h1>
		<HubChooser selected={hub} {notes} />
	</section>
	<section class="grid content-start gap-4 wide:col-start-2 wide:row-span-2 wide:row-start-1">
		<Choice
			label="Which way"
			options={fitting.map((one) => ({ key: one.key, words: one.label }))}
			bind:value={chosen}
			row
			slides
		/>
		{#if row}
			{#key hub + row.key}<TestEntry witness={row.key} {hub} />{/key}
			<SameElsewhere witness={row.key} />
			<HowTo {row} />
		{/if}
	</section>
	<section class="grid content-start gap-4">
		{#key hub}<TestEntry witness="end_play" {hub} hotkeys={false} />{/key}
		<Lever />
	</section>
</div>
