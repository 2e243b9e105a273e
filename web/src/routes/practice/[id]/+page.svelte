<script lang="ts">
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { ArrowRight, Ear, Wrench } from '@lucide/svelte';
	import { api, ask, wordsOf, type Schemas } from '$lib/api/client';
	import { bindKeys } from '$lib/keys.svelte';
	import { HUB_KEYS, SURE_KEYS } from '$lib/practice/keys';
	import Ordering from '$lib/practice/Ordering.svelte';
	import Sureness from '$lib/practice/Sureness.svelte';
	import Told from '$lib/practice/Told.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Choice from '$lib/ui/Choice.svelte';
	import Notice from '$lib/ui/Notice.svelte';

	const id = $derived(page.params.id ?? '');
	let exercise = $state.raw<Schemas['ExerciseOut'] | null>(null);
	let recordings = $state.raw<Schemas['RecordingOut'][]>([]);
	let hub = $state('');
	let key = $state('');
	let order = $state.raw<string[]>([]);
	let sure = $state('');
	let wrong = $state('');
	let busy = $state(false);

	const path = $derived({ params: { path: { exercise_id: id } } });
	const byEar = $derived(Boolean(exercise?.by_ear && !exercise.ear));
	const stageHref = $derived(
		`/cases/${id}${exercise?.stage ? `/${exercise.stage}` : ''}${exercise?.at ? `?hub=${exercise.at}` : ''}`
	);
	const needsHub = $derived(Boolean(exercise?.names_a_hub && key !== 'leave'));
	const orders = $derived(exercise?.asks === 'order');
	const said = $derived(orders ? order.length === exercise?.options.length : key && (!needsHub || hub));
	const ready = $derived(Boolean(exercise?.begun && sure && said));
	const called = $derived(Object.fromEntries((exercise?.hubs ?? []).map((one) => [one.key, one.words])));

	/** An order that was begun is there again when one comes back from the vehicle. */
	const draftOf = (of: string) => `order-${of}`;
	$effect(() => {
		if (exercise?.id === id && orders) sessionStorage.setItem(draftOf(id), JSON.stringify(order));
	});
	$effect(() => void load(id));
	async function load(of: string) {
		wrong = hub = key = sure = '';
		recordings = [];
		order = [];
		try {
			const params = { path: { exercise_id: of } };
			const found = await ask(api.GET('/api/training/exercises/{exercise_id}', { params }));
			const begun = JSON.parse(sessionStorage.getItem(draftOf(of)) ?? '[]') as string[];
			order = begun.filter((step) => found.options.some((one) => one.key === step));
			exercise = found;
			await sounds();
		} catch (error) {
			wrong = wordsOf(error);
		}
	}
	async function sounds() {
		if (!exercise?.begun) return;
		const params = { path: { case_id: exercise.id } };
		recordings = await ask(api.GET('/api/cases/{case_id}/recordings', { params }));
	}
	async function doing(what: () => Promise<Schemas['ExerciseOut']>) {
		if (busy) return;
		busy = true;
		wrong = '';
		const ear = byEar;
		try {
			exercise = await what();
			if (ear !== byEar) sure = ''; // how sure the ear was is not how sure one is with the plots
		} catch (error) {
			wrong = wordsOf(error);
		} finally {
			busy = false;
		}
		await sounds().catch(() => undefined);
	}
	const begin = () =>
		doing(() => ask(api.POST('/api/training/exercises/{exercise_id}/begin', path))).then(() => {
			if (exercise?.begun && !recordings.length && !orders) void goto(stageHref);
		});
	function answer() {
		if (!ready) return;
		const body = { key, sure: Number(sure) };
		if (byEar)
			return doing(() => ask(api.POST('/api/training/exercises/{exercise_id}/ear', { ...path, body })));
		const whole = { ...body, hub: needsHub ? hub : '', order };
		return doing(() =>
			ask(api.POST('/api/training/exercises/{exercise_id}/answer', { ...path, body: whole }))
		);
	}
	const next = () => void goto(exercise?.next ? `/practice/${exercise.next}` : '/practice');
	const go = () => void goto(stageHref);

	$effect(() => {
		const asked = exercise;
		if (!asked) return;
		if (asked.told)
			return bindKeys([
				{ key: 'n', label: 'Next question', run: next },
				{ key: 'b', label: 'To the practice vehicle', run: go }
			]);
		if (!asked.begun) return bindKeys([{ key: 'n', label: 'Begin', run: () => void begin() }]);
		return bindKeys([
			...asked.options.map((one, n) => ({
				key: String(n + 1),
				label: one.words,
				run: () => {
					if (!orders) key = one.key;
					else if (!order.includes(one.key)) order = [...order, one.key];
				}
			})),
			...(orders
				? [{ key: 'Backspace', label: 'Take the last back', run: () => void (order = order.slice(0, -1)) }]
				: []),
			...(asked.names_a_hub
				? asked.hubs.map((one, n) => ({
						key: HUB_KEYS[n] ?? '',
						label: one.words,
						run: () => void (hub = one.key)
					}))
				: []),
			...asked.sure_steps.map((step, n) => ({
				key: SURE_KEYS[n] ?? '',
				label: step.words,
				run: () => void (sure = String(step.percent))
			})),
			{ key: 'b', label: 'To the practice vehicle', run: go },
			{ key: 'n', label: 'Answer', run: () => void answer() }
		]);
	});
</script>

<svelte:head><title>Practice · Hematite</title></svelte:head>

{#if wrong}<div class="pb-3"><Notice level="stop">{wrong}</Notice></div>{/if}
{#if exercise}
	<div class={['grid gap-6', !(orders && exercise.begun && !exercise.told) && 'wide:grid-cols-2']}>
		<section class="grid content-start gap-4">
			<p class="text-faded">
				<a href="/practice" class="inline-flex min-h-12 items-center underline underline-offset-4">Practice</a
				>
				· {exercise.number} of {exercise.of} · {exercise.topic_label} · {exercise.level_label}
			</p>
			<h1 class="first-letter:uppercase">{exercise.at ? `${called[exercise.at]}: ` : ''}{exercise.ask}</h1>
			{#if !exercise.begun}
				<p>
					{exercise.topic === 'real'
						? 'A case of this workshop, without whose it was: what was heard and found there answers, what nobody did cannot be asked.'
						: 'A made-up vehicle stands on the bench. What it hides is known to nobody here before you answer.'}
				</p>
				<div>
					<Button look="main" hotkey="n" onclick={begin} disabled={busy}
						>{busy ? 'Being put up …' : 'Begin'}<ArrowRight aria-hidden="true" /></Button
					>
				</div>
			{:else}
				<div>
					<Button
						href={stageHref}
						hotkey="b"
						look={recordings.length || exercise.told || orders ? 'plain' : 'main'}
						><Wrench aria-hidden="true" />{exercise.told
							? 'The case, with all that was found'
							: orders
								? 'Look how the hub is built'
								: 'To the practice vehicle'}</Button
					>
				</div>
			{/if}
			{#if recordings.length}
				<section class="grid gap-2" aria-label="Recordings">
					<h2>Listen</h2>
					<ul class="grid gap-2">
						{#each recordings as row (row.id)}
							<li class="plate grid items-center gap-x-3 sm:grid-cols-[9rem_1fr]">
								<b>{row.place === 'cabin' ? 'in the cabin' : (called[row.place] ?? row.place)}</b>
								<audio
									controls
									preload="none"
									src="/api/recordings/{row.id}/audio"
									class="w-full"
									aria-label="{called[row.place] ?? row.place}, on {row.situation === 'road'
										? 'the road'
										: 'stands'}"
								></audio>
							</li>
						{/each}
					</ul>
				</section>
			{:else if exercise.begun && exercise.by_ear && !exercise.told}
				<p>Record each wheel with the simulated pickup; the sounds then stand here to be listened to.</p>
			{/if}
		</section>
		<section class="grid content-start gap-4">
			{#if exercise.told}
				<Told {exercise} told={exercise.told} {recordings} />
				<div>
					<Button look="main" hotkey="n" onclick={next}
						>{exercise.next ? 'Next question' : 'How I stand'}<ArrowRight aria-hidden="true" /></Button
					>
				</div>
			{:else if exercise.begun}
				{#if !orders}<h2 class="flex items-center gap-2">
						{#if byEar}<Ear aria-hidden="true" />Your ear first{:else}Your answer{/if}
					</h2>{/if}
				{#if byEar}<p class="text-faded">
						No plot is shown yet. Say what you hear; it is scored by itself.
					</p>{/if}
				{#if exercise.ear && !byEar}
					<p class="text-faded">
						Your ear said: {exercise.options.find((one) => one.key === exercise?.ear)?.words}. Now the bench
						shows what it heard; look, test further, then answer.
					</p>
				{/if}
				{#if exercise.names_a_hub}
					<Choice
						label="At which wheel"
						options={exercise.hubs.map((one, n) => ({ ...one, hotkey: HUB_KEYS[n] }))}
						bind:value={hub}
						pairs
						disabled={key === 'leave'}
					/>
				{/if}
				{#if orders}
					<Ordering steps={exercise.options} bind:order />
				{:else}
					<Choice
						label={exercise.ask}
						options={exercise.options.map((one, n) => ({ ...one, hotkey: String(n + 1) }))}
						bind:value={key}
						pairs
					/>
				{/if}
				<h2>How sure are you?</h2>
				<Sureness steps={exercise.sure_steps} bind:value={sure} />
				<div class="sticky bottom-0 bg-steel py-2">
					<Button look="main" hotkey="n" onclick={answer} disabled={!ready || busy}
						>{byEar ? 'That is what I hear' : 'Answer'}</Button
					>
				</div>
			{/if}
		</section>
	</div>
{/if}
