<script lang="ts">
	import { session } from '$lib/session.svelte';
	import { api, ask, wordsOf, type Schemas } from '$lib/api/client';
	import { untrack } from 'svelte';
	import { page } from '$app/state';
	import { useCase } from '$lib/case/case.svelte';
	import HubName from '$lib/case/HubName.svelte';
	import JobChooser from '$lib/prove/JobChooser.svelte';
	import { inUnits, torque } from '$lib/shown.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import PartsPlate from '$lib/case/PartsPlate.svelte';
	import Tick from '$lib/ui/Tick.svelte';
	import NutSum from './NutSum.svelte';
	import ShimSum from './ShimSum.svelte';

	const held = useCase();
	let job = $state.raw<Schemas['JobOut'] | null>(null);
	let wrong = $state('');
	const params = { path: { case_id: held.id } };
	/** The job that the address names, by its hub; else the latest. */
	const asked = $derived(page.url.searchParams.get('hub'));

	/** Ticks that wait on this device are shown as they were set. */
	const set = $derived(
		new Map(
			held
				.waiting('job/ticks')
				.map((entry) => entry.body as Schemas['TickIn'])
				.filter((row) => row.verdict === job?.verdict?.id)
				.map((row) => [row.step, row.done] as const)
		)
	);
	const steps = $derived(
		(job?.steps ?? []).map((step) => ({ ...step, done: set.get(step.id) ?? step.done }))
	);

	const left = $derived(steps.filter((step) => !step.done).length);

	$effect(() => {
		void held.changes;
		const verdict = untrack(() => held.verdicts)
			.filter((row) => row.hub === asked)
			.at(-1)?.id;
		let stale = false; // a late answer about another hub's job is not shown
		ask(api.GET('/api/cases/{case_id}/job', { params: { ...params, query: { verdict } } })).then(
			(found) => stale || (job = found),
			(error) => stale || (wrong = wordsOf(error))
		);
		return () => (stale = true);
	});

	async function tick(step: string, done: boolean) {
		const verdict = job?.verdict?.id;
		if (!verdict) return;
		const id = crypto.randomUUID();
		await held.writeLater('job/ticks', { id, verdict, step, done, note: '' }, 'A step of the job');
	}
	const range = (values: number[]) => values.map(torque).join(' to ');
</script>

{#if wrong}<div class="pb-3"><Notice level="stop">{wrong}</Notice></div>{/if}
{#if job?.verdict}
	<div class="grid gap-4">
		<JobChooser jobs={job.jobs} chosen={job.verdict.id} stage="do" />
		<div>
			<h1><HubName hub={job.verdict.hub} />: {job.verdict.choice_label}</h1>
			<p class="text-faded">{left ? `${left} of ${steps.length} steps left` : 'All steps done'}</p>
		</div>
		{#if left}<PartsPlate />{/if}
		<ol class="grid gap-3">
			{#each steps as step, n (step.id)}
				<li class="plate grid gap-2 {step.done ? '' : 'border-l-blued'}">
					<Tick
						label="{n + 1}. {inUnits(step.text)}"
						bind:checked={() => step.done, (on) => void (held.closed || tick(step.id, on))}
					/>
					{#if step.torque_nm.length || step.torque_note}
						<p class="pl-[3.75rem]">
							{#if step.torque_nm.length}<span class="font-mono text-2xl">{range(step.torque_nm)}</span>{/if}
							{inUnits(step.torque_note)}
							<span class="text-faded">{step.source}.</span>
						</p>
					{/if}
					{#if step.caution}<Notice level="warn">{step.caution}</Notice>{/if}
					{#if step.sum === 'nut'}<NutSum />{/if}
					{#if step.sum === 'shims'}<ShimSum hub={job.verdict.hub} />{/if}
				</li>
			{/each}
		</ol>
		<p class="text-faded">
			{session.reference?.wording.no_torque_made_up}
		</p>
		<div>
			<Button look="main" hotkey="p" href="/cases/{held.id}/prove?hub={job.verdict.hub}">Prove it</Button>
		</div>
	</div>
{:else if job}
	<div class="plate grid max-w-xl gap-3">
		<h1>Nothing is decided yet</h1>
		<p>The steps follow from the decision at a hub.</p>
		<div><Button look="main" href="/cases/{held.id}/decide">Decide</Button></div>
	</div>
{/if}
