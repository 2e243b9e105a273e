<script lang="ts">
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { Tabs } from 'bits-ui';
	import { untrack } from 'svelte';
	import { useCase } from '$lib/case/case.svelte';
	import HubName from '$lib/case/HubName.svelte';
	import { withIn } from '$lib/case/hub.svelte';
	import PartsPlate from '$lib/case/PartsPlate.svelte';
	import DayPlate from '$lib/job/DayPlate.svelte';
	import { JobState } from '$lib/job/job.svelte';
	import JobLists from '$lib/job/JobLists.svelte';
	import { clock, keepMeans, keptMeans, type Means } from '$lib/job/means';
	import StepCard from '$lib/job/StepCard.svelte';
	import StepList from '$lib/job/StepList.svelte';
	import StepNote from '$lib/job/StepNote.svelte';
	import StuckPanel from '$lib/job/StuckPanel.svelte';
	import TakenAsUsual from '$lib/job/TakenAsUsual.svelte';
	import Timers from '$lib/job/Timers.svelte';
	import TorquePlate from '$lib/job/TorquePlate.svelte';
	import { bindKeys } from '$lib/keys.svelte';
	import { session } from '$lib/session.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import NutSum from './NutSum.svelte';
	import ShimSum from './ShimSum.svelte';

	const held = useCase();
	const work = new JobState(held);
	let means = $state.raw<Means>(keptMeans(held.id));
	let stuck = $state('');
	let side = $state('steps');

	const job = $derived(work.job);
	const asked = $derived(page.url.searchParams.get('step'));
	const step = $derived(work.at(asked));
	const n = $derived(step ? work.steps.indexOf(step) : -1);
	const fresh = $derived(held.verdicts.filter((row) => row.news > 0));

	$effect(() => {
		void held.changes; // what anybody ticks, enters or decides is seen here
		const now = means;
		untrack(() => void work.load(now));
	});

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
	async function tried(rung: string, label: string) {
		if (!step) return;
		const here = step.id;
		await work.enter(here, 'stuck', label, { rung });
		stuck = '';
		if (rung) choose(here.replace(/\.off$/, `.free-${rung}`));
	}
	/** What was found belongs to Open, where it weighs; from there the verdict and this plan may change. */
	const foundAt = $derived.by(() => {
		const hub = step?.hub ?? '';
		const part = session.reference?.parts[step?.part ?? ''] ? `&part=${step?.part}` : '';
		return `/cases/${held.id}/open?hub=${hub || (job?.jobs[0]?.hub ?? '')}${part}`;
	});
	const book = (key: string) =>
		held.hubs.find((row) => row.id === (step?.hub || job?.jobs[0]?.hub))?.fastenings?.[key];

	$effect(() =>
		bindKeys([
			{ key: 'k', label: 'Done', run: () => void tick() },
			{ key: 'm', label: 'It will not move', run: () => (stuck = step?.ladder.length ? step.id : '') },
			{ key: 'f', label: 'Found something', run: () => void goto(foundAt) },
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
											step.hub || (job.jobs[0]?.hub ?? ''),
											{ fastenings: { [key]: row }, fittings: {} },
											`Torque: ${step.torque?.label}`
										)}
						/>
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
					<Button hotkey="f" href={foundAt} class="max-wide:px-2">Found something</Button>
				</div>
				{#if stuck === step.id}<StuckPanel {step} currency={job.day?.currency ?? ''} ontried={tried} />{/if}
				{#if step.sum === 'nut'}<div class="plate"><NutSum /></div>{/if}
				{#if step.sum === 'shims'}<div class="plate"><ShimSum hub={step.hub} /></div>{/if}
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
			</div>
			<p class="text-faded">
				Steps, order and minutes are common practice. {session.reference?.wording.no_torque_made_up}
				{session.reference?.wording.nothing_above}
			</p>
		</section>
		<section class="grid content-start gap-3">
			<ul class="grid gap-2" aria-label="Jobs of this case">
				{#each job.jobs as one (one.hub)}
					<li class="plate flex flex-wrap items-baseline gap-x-3">
						<span class="font-semibold"><HubName hub={one.hub} /></span>
						<span
							>{one.choice_label}{one.repair_label ? `, then: ${one.repair_label.toLowerCase()}` : ''}</span
						>
						<span class="text-faded">{one.left ? `${one.left} of ${one.steps} left` : 'done'}</span>
					</li>
				{/each}
			</ul>
			{#each job.jobs as one (one.hub)}
				<TakenAsUsual
					job={one}
					onsaid={(question, answer, words) =>
						void work.write(
							one.hub,
							{ fittings: { [question]: answer }, fastenings: {} },
							`${one.hub}: ${words}`
						)}
				/>
			{/each}
			{#if work.left.length}<PartsPlate />{/if}
			<Tabs.Root bind:value={side}>
				<Tabs.List class="flex gap-2 pb-3" aria-label="The whole job">
					{#each [['steps', 'Steps'], ['lists', 'To lay out'], ['day', 'The day']] as [key, words] (key)}
						<Tabs.Trigger
							value={key ?? ''}
							class="min-h-12 grow rounded-sm border border-faded bg-plate px-3 data-[state=active]:bg-blued data-[state=active]:text-on-blued"
							>{words}</Tabs.Trigger
						>
					{/each}
				</Tabs.List>
				<Tabs.Content value="steps" class="max-h-[70vh] overflow-y-auto" tabindex={-1}>
					<StepList steps={work.steps} chosen={step.id} opens_h={job.day?.opens_h ?? 8} onchoose={choose} />
				</Tabs.Content>
				<Tabs.Content value="lists"
					>{#if job.lists}<JobLists lists={job.lists} caseId={held.id} />{/if}</Tabs.Content
				>
				<Tabs.Content value="day"
					><DayPlate
						{job}
						left={work.left}
						{means}
						onmeans={(now) => {
							keepMeans(held.id, now);
							means = now;
						}}
					/></Tabs.Content
				>
			</Tabs.Root>
		</section>
	</div>
{:else if job}
	<div class="plate grid max-w-xl gap-3">
		<h1>Nothing is decided yet</h1>
		<p>The steps follow from the decision at a hub.</p>
		<div><Button look="main" href="/cases/{held.id}/decide">Decide</Button></div>
	</div>
{/if}
