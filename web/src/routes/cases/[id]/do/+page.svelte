<script lang="ts">
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { untrack } from 'svelte';
	import type { Schemas } from '$lib/api/client';
	import { useCase } from '$lib/case/case.svelte';
	import { withIn } from '$lib/case/hub.svelte';
	import { JobState } from '$lib/job/job.svelte';
	import { clock, keepMeans, keptMeans, type Means } from '$lib/job/means';
	import StepCard from '$lib/job/StepCard.svelte';
	import StepNote from '$lib/job/StepNote.svelte';
	import StuckPanel from '$lib/job/StuckPanel.svelte';
	import Timers from '$lib/job/Timers.svelte';
	import TorquePlate from '$lib/job/TorquePlate.svelte';
	import WholeJob from '$lib/job/WholeJob.svelte';
	import { bindKeys } from '$lib/keys.svelte';
	import { session } from '$lib/session.svelte';
	import StepSums from '$lib/sums/StepSums.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Notice from '$lib/ui/Notice.svelte';

	const held = useCase();
	const work = new JobState(held);
	let means = $state.raw<Means>(keptMeans(held.id));
	let stuck = $state('');

	const job = $derived(work.job);
	const asked = $derived(page.url.searchParams.get('step'));
	const step = $derived(work.at(asked));
	const n = $derived(step ? work.steps.indexOf(step) : -1);
	/** The hub that this step is done at; of a step for the whole job, the first that is worked on. */
	const hub = $derived(step?.hub || (job?.jobs[0]?.hub ?? ''));
	const fresh = $derived(held.verdicts.filter((row) => row.news > 0));

	$effect(() => {
		void held.changes; // what anybody ticks, enters or decides is seen here
		const now = means;
		untrack(() => void work.load(now));
	});

	function remeasure(now: Means) {
		keepMeans(held.id, now);
		means = now;
	}
	const choose = (id: string) =>
		void goto(withIn({ step: id }), { replaceState: true, keepFocus: true, noScroll: true });
	function pass(by: number) {
		const other = work.steps[n + by];
		if (other) choose(other.id);
		stuck = '';
	}

	/** Done in one tap, and on to the next that is left; tapped again it is not done after all. */
	async function tick() {
		if (!step || held.closed) return;
		const here = step;
		const next = work.left.filter((one) => one.id !== here.id);
		const onward = next.find((one) => work.steps.indexOf(one) > n) ?? next[0];
		stuck = '';
		await work.enter(
			here.id,
			here.done ? 'undone' : 'done',
			`${here.done ? 'Not done' : 'Done'}: ${here.do}`
		);
		if (!here.done && onward) choose(onward.id);
	}
	async function tried(rung?: Schemas['RungOut']) {
		if (!step) return;
		await work.enter(step.id, 'stuck', rung?.label ?? 'It came loose', { rung: rung?.key ?? '' });
		stuck = '';
		if (rung) choose(rung.step);
	}
	/** What was found belongs to Open, where it weighs; from there the verdict and this plan may change. */
	const openAt = (part: string) =>
		`/cases/${held.id}/open?hub=${hub}${session.reference?.parts[part] ? `&part=${part}` : ''}`;
	const book = (key: string) => held.hubs.find((row) => row.id === hub)?.fastenings?.[key];

	$effect(() =>
		bindKeys([
			{ key: 'k', label: 'Done', run: () => void tick() },
			{ key: 'm', label: 'It will not move', run: () => (stuck = step?.ladder.length ? step.id : '') },
			{ key: 'f', label: 'Found something', run: () => void goto(openAt(step?.part ?? '')) },
			{ key: 'n', label: 'Next step', run: () => pass(1) },
			{ key: 'v', label: 'Step before', run: () => pass(-1) }
		])
	);
</script>

{#if work.wrong}<div class="pb-3"><Notice level="stop">{work.wrong}</Notice></div>{/if}
{#if job?.verdict && step}
	<div class="grid gap-4 wide:grid-cols-[3fr_2fr] wide:gap-6">
		<section class="grid content-start gap-3">
			<div>
				<h1>Do: {job.jobs.map((one) => one.hub).join(', ')}</h1>
				<p class="text-faded" role="status">
					{work.left.length
						? `${work.left.length} of ${work.steps.length} steps left`
						: 'All steps done'}{work.left.length && job.day
						? `, done about ${clock(job.day.end, job.day.opens_h)}`
						: ''}
				</p>
			</div>
			{#each fresh as row (row.id)}
				<Notice level="warn"
					>{row.news} found since <span class="font-mono">{row.hub}</span> was decided: look whether it still
					stands. Ticks that hold are kept.
					<a class="underline" href="/cases/{held.id}/decide?hub={row.hub}">Decide anew</a></Notice
				>
			{/each}
			<Timers steps={work.steps} />
			{#key step.id}
				<StepCard {step} n={n + 1} of={work.steps.length}>
					{#if step.torque}
						{@const key = step.torque.key}
						<TorquePlate
							torque={step.torque}
							known={book(key)}
							onentered={held.closed
								? undefined
								: (row) =>
										work.write(
											hub,
											{ fastenings: { [key]: row }, fittings: {} },
											`Torque: ${step.torque?.label}`
										)}
						/>
					{/if}
					{#if step.looks.length}
						<p class="text-faded">
							What is seen is entered there:
							{#each step.looks as part, at (part)}{at ? ' · ' : ''}<a
									class="inline-flex min-h-12 items-center underline underline-offset-4"
									href={openAt(part)}>{session.reference?.parts[part]?.label ?? part}</a
								>{/each}
						</p>
					{/if}
				</StepCard>
				<div
					class="flex flex-wrap gap-2 max-wide:sticky max-wide:bottom-14 max-wide:z-10 max-wide:bg-steel max-wide:py-2"
				>
					<Button
						look="main"
						hotkey="k"
						onclick={() => void tick()}
						disabled={held.closed}
						class="grow max-wide:px-2">{step.done ? 'Not done after all' : 'Done'}</Button
					>
					{#if step.ladder.length}<Button
							hotkey="m"
							onclick={() => (stuck = stuck ? '' : step.id)}
							class="max-wide:px-2"
							disabled={held.closed}>Will not move</Button
						>{/if}
					<Button hotkey="f" href={openAt(step.part)} class="max-wide:px-2">Found something</Button>
				</div>
				{#if stuck === step.id}<StuckPanel {step} currency={job.day?.currency ?? ''} ontried={tried} />{/if}
				{#if step.sums.length}<StepSums {hub} step={step.id} keys={step.sums} />{/if}
				<StepNote
					{step}
					disabled={held.closed}
					onnote={(note, quantity, value) =>
						work.enter(step.id, 'note', `Note: ${step.do}`, { note, quantity, value })}
				/>
			{/key}
			<div class="flex flex-wrap gap-2">
				<Button hotkey="v" onclick={() => pass(-1)} disabled={n <= 0}>Before</Button>
				<Button hotkey="n" onclick={() => pass(1)} disabled={n >= work.steps.length - 1}>Next</Button>
				<Button href="/cases/{held.id}/prove?hub={job.verdict.hub}" look={work.left.length ? 'plain' : 'main'}
					>Prove it</Button
				>
				<Button look="quiet" href="/cases/{held.id}/sums?hub={hub}">All sums</Button>
			</div>
			<p class="text-faded">
				Steps, order and minutes are common practice. {session.reference?.wording.no_torque_made_up}
				{session.reference?.wording.nothing_above}
			</p>
		</section>
		<WholeJob {work} {job} {step} {means} onmeans={remeasure} onchoose={choose} />
	</div>
{:else if job}
	<div class="plate grid max-w-xl gap-3">
		<h1>Nothing is decided yet</h1>
		<p>The steps follow from the decision at a hub.</p>
		<div><Button look="main" href="/cases/{held.id}/decide">Decide</Button></div>
	</div>
{/if}
