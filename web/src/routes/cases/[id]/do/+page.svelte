<script lang="ts">
	import { api, ask, wordsOf, type Schemas } from '$lib/api/client';
	import { page } from '$app/state';
	import { useCase } from '$lib/case/case.svelte';
	import JobChooser from '$lib/prove/JobChooser.svelte';
	import { torque } from '$lib/shown.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Tick from '$lib/ui/Tick.svelte';
	import NutSum from './NutSum.svelte';
	import ShimSum from './ShimSum.svelte';

	const held = useCase();
	let job = $state.raw<Schemas['JobOut'] | null>(null);
	let wrong = $state('');
	const params = { path: { case_id: held.id } };
	/** The job that the address names, by its hub; else the latest. */
	const asked = $derived(page.url.searchParams.get('hub'));
	const left = $derived(job?.steps.filter((step) => !step.done).length ?? 0);

	$effect(() => {
		const verdict = held.verdicts.filter((row) => row.hub === asked).at(-1)?.id;
		let stale = false; // a late answer about another hub's job is not shown
		ask(api.GET('/api/cases/{case_id}/job', { params: { ...params, query: { verdict } } })).then(
			(found) => stale || (job = found),
			(error) => stale || (wrong = wordsOf(error))
		);
		return () => (stale = true);
	});

	/** Ticks are sent one after another: two at once could answer in the wrong order and untick each other. */
	let sending = Promise.resolve();
	let unsent = 0;

	function tick(step: string, done: boolean) {
		wrong = '';
		if (job) job = { ...job, steps: job.steps.map((row) => (row.id === step ? { ...row, done } : row)) };
		unsent += 1;
		const verdict = job?.verdict?.id;
		sending = sending.then(() => send(step, done, verdict));
	}

	async function send(step: string, done: boolean, verdict = job?.verdict?.id) {
		try {
			const body = { id: crypto.randomUUID(), verdict, step, done, note: '' };
			const found = await ask(api.POST('/api/cases/{case_id}/job/ticks', { params, body }));
			if (unsent === 1 && job?.verdict?.id === verdict) job = found;
		} catch (error) {
			wrong = wordsOf(error);
			if (job)
				job = { ...job, steps: job.steps.map((row) => (row.id === step ? { ...row, done: !done } : row)) };
		} finally {
			unsent -= 1;
		}
	}
	const range = (values: number[]) => values.map(torque).join(' to ');
</script>

{#if wrong}<div class="pb-3"><Notice level="stop">{wrong}</Notice></div>{/if}
{#if job?.verdict}
	<div class="grid gap-4">
		<JobChooser jobs={job.jobs} chosen={job.verdict.id} stage="do" />
		<div>
			<h1><span class="font-mono">{job.verdict.hub}</span>: {job.verdict.choice_label}</h1>
			<p class="text-faded">{left ? `${left} of ${job.steps.length} steps left` : 'All steps done'}</p>
		</div>
		<ol class="grid gap-3">
			{#each job.steps as step, n (step.id)}
				<li class="plate grid gap-2 {step.done ? '' : 'border-l-blued'}">
					<Tick
						label="{n + 1}. {step.text}"
						bind:checked={() => step.done, (on) => void (held.closed || tick(step.id, on))}
					/>
					{#if step.torque_nm.length || step.torque_note}
						<p class="pl-[3.75rem]">
							{#if step.torque_nm.length}<span class="font-mono text-2xl">{range(step.torque_nm)}</span>{/if}
							{step.torque_note}
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
			Torques that are not named here come from the vehicle’s own manual. None is invented.
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
