<script lang="ts">
	import type { Schemas } from '$lib/api/client';
	import { bindKeys } from '$lib/keys.svelte';
	import { session } from '$lib/session.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Choice from '$lib/ui/Choice.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Tick from '$lib/ui/Tick.svelte';
	import { answersOf, testHref } from './answers';
	import { useCase } from './case.svelte';
	import DialReadings from './DialReadings.svelte';
	import FigureEntry from './FigureEntry.svelte';
	import HeatRound from './HeatRound.svelte';
	import OnTheBench from '$lib/practice/OnTheBench.svelte';

	interface Props {
		/** The test, as the API's table names it. */
		witness: string;
		/** The hub, '' for a test of the whole vehicle. */
		hub: string;
		/** Bind the single keys of the answers. */
		hotkeys?: boolean;
		onlogged?: () => void;
	}
	let { witness, hub, hotkeys = true, onlogged }: Props = $props();
	const held = useCase();
	const row = $derived(session.reference?.witnesses.find((one) => one.key === witness));
	const logged = $derived<Schemas['ObservationOut'] | undefined>(held.standing(hub, witness));
	const entry = $derived(row?.entry ?? 'answer');
	const answers = $derived(row ? answersOf(row, session.reference?.passes ?? []) : []);
	let answer = $derived(String(logged?.value.answer ?? ''));
	/** Ticked here and not yet logged: what comes in meanwhile does not undo it. */
	let ticked = $state.raw<{ of: string; words: string[] } | null>(null);
	const of = $derived(`${witness} ${hub}`);
	const words = $derived(
		ticked?.of === of ? ticked.words : ((logged?.value.words as string[] | undefined) ?? [])
	);
	/** What stood when they were logged: once something else does, theirs is shown. */
	let over = $state.raw<{ id: string | undefined } | null>(null);
	$effect(() => {
		if (over && logged?.id !== over.id) ticked = over = null;
	});
	/** Rocking alone one feels, but cannot see what moves: such an answer is believed less. */
	const rocks = $derived(row?.rocked ?? false);
	let alone = $derived(logged?.value.how === 'one_person');
	/** A click felt while it is rocked is a sign of danger of its own. */
	let clicks = $derived(logged?.value.click === true);
	/** Where and when the driver hears it stays, whatever words are ticked. */
	const whereabouts = $derived(
		Object.fromEntries(
			['side', 'end', 'bends'].flatMap((key) => (logged?.value[key] ? [[key, logged.value[key]]] : []))
		)
	);
	const where = $derived(hub ? `${hub}: ` : '');

	async function log(value: Record<string, unknown>, said: string) {
		over = { id: logged?.id };
		await held.observe(hub, witness, value, `${where}${said}`);
		onlogged?.();
	}
	const choose = (key: string) =>
		log(
			{
				answer: key,
				...(rocks && alone ? { how: 'one_person' } : {}),
				...(rocks && clicks ? { click: true } : {})
			},
			answers.find((one) => one.key === key)?.words ?? key
		);
	const tick = (key: string) =>
		(ticked = { of, words: words.includes(key) ? words.filter((word) => word !== key) : [...words, key] });

	$effect(() =>
		hotkeys && !held.closed && row && !['gauge', 'record'].includes(entry)
			? bindKeys(
					answers.map((one) => ({
						key: one.hotkey ?? '',
						label: `${row.label}: ${one.words}`,
						run: () => (entry === 'words' ? tick(one.key) : void choose(one.key))
					}))
				)
			: undefined
	);
</script>

{#if row}
	<section class="grid gap-3" aria-label={row.label}>
		{#if held.detail?.practice && !['gauge', 'record', 'words'].includes(entry) && row.apart !== 'opened'}
			<OnTheBench
				label="Do it on the practice vehicle"
				run={async () => {
					await held.feel(hub, witness);
					onlogged?.();
				}}
			/>
		{/if}
		{#if entry === 'gauge'}
			<DialReadings {hub} {onlogged} />
		{:else if entry === 'record'}
			<Button href={testHref(held.id, witness, hub)} look="main">Record {hub}</Button>
		{:else if entry === 'words'}
			<div class="grid gap-2 sm:grid-cols-2" role="group" aria-label={row.label}>
				{#each row.options as option, n (option.key)}
					<Tick
						label="{option.words} ({answers[n]?.hotkey})"
						bind:checked={() => words.includes(option.key), () => tick(option.key)}
					/>
				{/each}
			</div>
			<div>
				<Button
					look="main"
					disabled={!words.length || held.closed}
					onclick={() => log({ ...whereabouts, words }, words.join(', '))}>Log what the driver says</Button
				>
			</div>
		{:else}
			{#if rocks}
				<div class="grid gap-x-3 sm:grid-cols-2">
					<Tick label="Rocked alone, without seeing what moves" bind:checked={alone} />
					<Tick label="It clicks or knocks while it is rocked" bind:checked={clicks} />
				</div>
			{/if}
			<Choice
				label={hub ? `${row.label} at ${hub}` : row.label}
				options={answers}
				bind:value={answer}
				onchange={choose}
				disabled={held.closed}
				pairs
			/>
			{#if entry === 'heat'}<HeatRound {onlogged} />
			{:else if entry !== 'answer'}<FigureEntry {entry} {hub} onlog={log} />{/if}
		{/if}
		{#if entry === 'record' || entry === 'gauge' || entry === 'words'}
			<div>
				<Button look="quiet" disabled={held.closed} onclick={() => log({ answer: 'not_done' }, 'not done')}
					>Not done</Button
				>
			</div>
		{/if}
		{#if logged && entry !== 'gauge'}
			<Notice
				>{logged.words}. Logged by {logged.person}; another answer supersedes it, this one stays in the log.</Notice
			>
		{/if}
	</section>
{/if}
