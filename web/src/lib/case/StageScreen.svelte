<script lang="ts">
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { bindKeys } from '$lib/keys.svelte';
	import { session } from '$lib/session.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Choice from '$lib/ui/Choice.svelte';
	import { unanswered } from './answers';
	import { useCase } from './case.svelte';
	import { entryWords } from './entry.svelte';
	import HowTo from './HowTo.svelte';
	import HubName from './HubName.svelte';
	import { chosenHub, hubAfter, walked, withHub, withIn } from './hub.svelte';
	import HubChooser from './HubChooser.svelte';
	import SameElsewhere from './SameElsewhere.svelte';
	import TestEntry from './TestEntry.svelte';

	interface Props {
		stage: string;
		title: string;
	}
	let { stage, title }: Props = $props();
	const held = useCase();
	/** The tests that are done at every wheel before the next one, in their order. */
	const round = $derived(
		(session.reference?.witnesses ?? [])
			.filter((row) => row.stage === stage && row.every_wheel)
			.map((row) => row.key)
	);
	const hub = $derived(chosenHub(held));
	const fitting = $derived(
		(session.reference?.witnesses ?? []).filter(
			(row) => row.stage === stage && held.assessment?.tests[hub]?.includes(row.key)
		)
	);
	/** Which of them stands in the address, so that a reload and a link come back to it. */
	const asked = $derived(page.url.searchParams.get('test') ?? round[0]);
	const row = $derived(fitting.find((one) => one.key === asked) ?? fitting[0]);
	const notes = $derived(
		Object.fromEntries(
			held.hubs.map((one) => {
				const kind = row?.key ?? round[0] ?? '';
				return [one.id, held.saidHere(one.id, kind) ?? entryWords(held.standing(one.id, kind)) ?? 'not yet'];
			})
		)
	);
	const next = () => void goto(withHub(hubAfter(held, hub)), { keepFocus: true });
	const choose = (test: string) =>
		void goto(withIn({ hub, test }), { replaceState: true, keepFocus: true, noScroll: true });
	/** Round the vehicle as one walks: what is done at every wheel is answered at this one, then at the next without it. */
	function lead() {
		if (!row || !round.includes(row.key)) return;
		const due = (at: string) => round.find((kind) => held.due(at, kind));
		const here = due(hub);
		const to = here ? hub : unanswered(walked(held.hubs), hub, (at) => !due(at));
		const test = here ?? (to ? due(to) : undefined);
		if (to && test) void goto(withIn({ hub: to, test }), { keepFocus: true, noScroll: true });
	}
	$effect(() => bindKeys([{ key: 'n', label: 'Next hub', run: next }]));
</script>

<!-- On a phone the answers stand under the hubs, and what to do below them. -->
<div class="grid gap-4 wide:grid-cols-2 wide:gap-6">
	<section class="grid content-start gap-3">
		<h1>{title} <HubName {hub} /></h1>
		<HubChooser selected={hub} {notes} />
		{#if row && fitting.length > 1}
			<Choice
				label="Which test"
				options={fitting.map((one) => ({ key: one.key, words: one.label }))}
				bind:value={() => row.key, choose}
				row
				slides
			/>
		{/if}
	</section>
	<section class="grid content-start gap-4">
		{#if row}
			{#key hub + row.key}<TestEntry witness={row.key} {hub} onlogged={lead} />{/key}
			<SameElsewhere witnesses={round.includes(row.key) ? round : [row.key]} />
			<div><Button onclick={next} hotkey="n">Next hub</Button></div>
			<HowTo {row} />
		{:else}
			<p class="plate">This hub’s design is not opened: it is judged from outside and replaced whole.</p>
		{/if}
	</section>
</div>
