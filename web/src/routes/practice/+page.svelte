<script lang="ts">
	import { goto } from '$app/navigation';
	import { ArrowRight, Headphones } from '@lucide/svelte';
	import { api, ask, wordsOf, type Schemas } from '$lib/api/client';
	import { day } from '$lib/dates';
	import { bindKeys } from '$lib/keys.svelte';
	import { counted, decimal } from '$lib/numbers';
	import Calibration from '$lib/practice/Calibration.svelte';
	import { session } from '$lib/session.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Notice from '$lib/ui/Notice.svelte';

	let desk = $state.raw<Schemas['DeskOut'] | null>(null);
	let wrong = $state('');
	let busy = $state(false);
	const practised = $derived(desk?.days.filter((one) => one.of).length ?? 0);

	$effect(() => void load());
	async function load() {
		try {
			desk = await ask(api.GET('/api/training'));
		} catch (error) {
			wrong = wordsOf(error);
		}
	}
	async function begin(topic = '') {
		if (busy) return;
		busy = true;
		wrong = '';
		try {
			const body = { id: crypto.randomUUID(), topic };
			const made = await ask(api.POST('/api/training/rounds', { body }));
			const first = made.exercises.find((one) => one.right === null) ?? made.exercises[0];
			if (first) await goto(`/practice/${first.id}`);
		} catch (error) {
			wrong = wordsOf(error);
		} finally {
			busy = false;
		}
	}
	$effect(() => bindKeys([{ key: 'n', label: 'A round of five', run: () => void begin() }]));
</script>

<svelte:head><title>Practice · Hematite</title></svelte:head>

{#if wrong}<div class="pb-3"><Notice level="stop">{wrong}</Notice></div>{/if}
{#if desk}
	<div class="grid gap-6 wide:grid-cols-[3fr_2fr]">
		<div class="grid content-start gap-5">
			<section class="grid gap-3" aria-label="A round">
				<h1>Practice: hubs that answer</h1>
				<p>
					Five made-up vehicles a round, each hiding something or nothing. You work on them as on real ones,
					say what it is and how sure you are, and are told.
				</p>
				<div class="flex flex-wrap items-center gap-3">
					<Button look="main" hotkey="n" class="min-h-16 text-lg" onclick={() => void begin()} disabled={busy}
						>{desk.open_round ? 'Go on with the round' : 'A round of five'}<ArrowRight
							aria-hidden="true"
						/></Button
					>
					<span class="text-faded">
						{#if desk.set_by}Set by {desk.set_by}.{/if}
						{desk.due
							? counted(desk.due, ['One thing that you met comes back.', '# things that you met come back.'])
							: 'Nothing that you met is due; the round brings what is new.'}
					</span>
				</div>
			</section>
			<section class="grid gap-2" aria-label="Topics">
				<h2>What can be learnt</h2>
				<ul class="grid gap-2">
					{#each desk.topics as topic (topic.key)}
						<li class="plate flex flex-wrap items-center gap-x-4 gap-y-1 py-1">
							<b class="grow basis-48">{topic.label}</b>
							{#if topic.level}
								<span
									class="flex items-center gap-1"
									role="img"
									aria-label="Level {topic.level} of {desk.levels}"
								>
									{#each { length: desk.levels }, n (n)}
										<span
											class="h-5 w-2.5 -skew-x-12 border border-faded {n < topic.level ? 'bg-print' : ''}"
											aria-hidden="true"
										></span>
									{/each}
								</span>
							{/if}
							<span class="w-32">{topic.level_label}</span>
							<span class="w-28 text-faded"
								>{topic.of ? `${topic.right} of ${topic.of} right` : 'not met yet'}</span
							>
							<Button onclick={() => void begin(topic.key)} disabled={busy || Boolean(desk.open_round)}
								>Only this<span class="sr-only">: {topic.label}</span></Button
							>
						</li>
					{/each}
				</ul>
			</section>
			<section class="plate flex flex-wrap items-center gap-4" aria-label="Pairs">
				<Headphones aria-hidden="true" />
				<p class="grow basis-64">
					<b>The ear alone.</b> Two hubs that differ in one thing, and one of them once more: which is it?
				</p>
				<Button href="/practice/listen">Listen to pairs</Button>
			</section>
			{#if !session.mayNot('decide')}
				<p>
					<a href="/practice/group" class="inline-flex min-h-12 items-center underline underline-offset-4"
						>How the workshop’s people stand, and a round set for one of them</a
					>
				</p>
			{/if}
			<section class="grid gap-2" aria-label="Two weeks">
				<h2>
					Two weeks <span class="text-faded">practised on {counted(practised, ['one day', '# days'])}</span>
				</h2>
				<ol class="grid grid-cols-14 items-end gap-1" aria-label="Answers a day, the right ones filled">
					{#each desk.days as one (one.day)}
						<li
							class="grid justify-items-center gap-0.5"
							aria-label="{day(one.day)}: {one.of ? `${one.right} of ${one.of} right` : 'none'}"
							title="{day(one.day)}: {one.of ? `${one.right} of ${one.of} right` : 'none'}"
						>
							{#each { length: Math.min(one.of, 10) }, n (n)}
								<span
									class="size-3.5 rounded-full border-2 border-print {one.of - n <= one.right
										? 'bg-print'
										: ''}"
									aria-hidden="true"
								></span>
							{/each}
							<span class="h-1 w-full bg-groove" aria-hidden="true"></span>
							<span class="text-base text-faded max-sm:sr-only" aria-hidden="true"
								>{Number(one.day.slice(8))}</span
							>
						</li>
					{/each}
				</ol>
			</section>
			{#if desk.missed.length}
				<section class="grid gap-2" aria-label="Missed last time">
					<h2>Missed last time</h2>
					<ul class="grid gap-1">
						{#each desk.missed as row, n (n)}
							<li class="flex flex-wrap justify-between gap-x-3 border-b border-groove pb-1">
								<span>{row.topic_label}: {row.label}</span><span class="text-faded"
									>{new Date(row.due_at) > new Date()
										? `comes back ${day(row.due_at)}`
										: 'comes back now'}</span
								>
							</li>
						{/each}
					</ul>
				</section>
			{/if}
		</div>
		<div class="grid content-start gap-6">
			{#if desk.score}
				<section class="plate grid gap-3" aria-label="How sure against how right">
					<Calibration score={desk.score} label="How sure against how right" file="how-sure" />
					<p class="text-faded">
						Brier’s score {decimal(desk.score.brier, 3)}: 0 is perfect, 0.25 is a coin that says so.
					</p>
					{#if desk.harm}<p>
							{counted(desk.harm, [
								'One answer would have left a wheel that may fail on the road.',
								'# answers would have left a wheel that may fail on the road.'
							])}
						</p>{/if}
				</section>
			{:else}
				<p class="plate">
					Here will stand how often you are right when you say 65 %, 80 %, 97 %, and on how few answers that
					rests.
				</p>
			{/if}
			{#if desk.ear}
				<section class="plate" aria-label="Your ear alone">
					<Calibration score={desk.ear} label="Your ear alone, before any plot" file="ear-alone" />
				</section>
			{/if}
		</div>
	</div>
{/if}
