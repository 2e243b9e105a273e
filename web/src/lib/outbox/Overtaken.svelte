<script lang="ts">
	import { api, ask, wordsOf, type Schemas } from '$lib/api/client';
	import { entryWords } from '$lib/case/entry.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import { outbox, type Entry } from './outbox.svelte';

	/** An entry that a colleague's overtook: both are shown, either may stand. */
	let { entry }: { entry: Entry & { kind: 'observation' } } = $props();
	let theirs = $state.raw<Schemas['ObservationOut'] | null>(null);
	let wrong = $state('');

	const partOf = (value: Record<string, unknown>) => value.part ?? value.check;
	$effect(() => {
		const { hub, kind, value, job } = entry.body;
		ask(api.GET('/api/cases/{case_id}', { params: { path: { case_id: entry.caseId } } })).then(
			(found) =>
				(theirs =
					found.observations
						.filter((row) => row.hub === hub && row.kind === kind && !row.superseded && !row.withdrawn)
						.filter((row) => (row.job ?? null) === (job ?? null) && partOf(row.value) === partOf(value))
						.at(-1) ?? null),
			(error) => (wrong = wordsOf(error))
		);
	});
</script>

<Notice level="stop">
	<p>
		{entry.label}: a colleague corrected the same entry meanwhile.
		{#if theirs}Theirs: {entryWords(theirs)}, by {theirs.person}. Yours is kept here until you choose.{/if}
		{wrong}
	</p>
	<span class="flex flex-wrap gap-2 pt-2">
		<Button onclick={() => theirs && outbox.instead(entry, theirs.id)} disabled={!theirs}>Mine counts</Button>
		<Button onclick={() => outbox.discard(entry)}>Theirs counts</Button>
	</span>
</Notice>
