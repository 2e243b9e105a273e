<script lang="ts">
	import AnswerScreen from '$lib/case/AnswerScreen.svelte';
	import HubChooser from '$lib/case/HubChooser.svelte';
	import { useCase } from '$lib/case/case.svelte';
	import { entryWords } from '$lib/case/entry.svelte';
	import { chosenHub } from '$lib/case/hub.svelte';
	import Choice from '$lib/ui/Choice.svelte';
	import DialReadings from './DialReadings.svelte';
	import Lever from './Lever.svelte';

	const held = useCase();
	const hub = $derived(chosenHub(held));
	let hands = $state('12_6');
	const notes = $derived(
		Object.fromEntries(
			held.hubs.map((row) => [row.id, entryWords(held.standing(row.id, 'end_play')) ?? 'no readings yet'])
		)
	);
	const handOptions = [
		{ key: '12_6', words: 'Hands at 12 and 6' },
		{ key: '3_9', words: 'Hands at 3 and 9' }
	];
</script>

<div class="grid gap-6 wide:grid-cols-2">
	<section class="grid content-start gap-4">
		<h1>Play at <span class="font-mono">{hub}</span></h1>
		<HubChooser selected={hub} {notes} />
		{#key hub}<DialReadings {hub} />{/key}
		<Lever />
	</section>
	<section class="grid content-start gap-5">
		<Choice label="Hands" options={handOptions} bind:value={hands} row />
		{#key hub}
			<AnswerScreen witness="rock" {hub} more={{ hands }} />
			<AnswerScreen witness="brake_held" {hub} hotkeys={false} />
		{/key}
	</section>
</div>
