<script lang="ts">
	import { Check, FileDown, Printer, X } from '@lucide/svelte';
	import { small } from '$lib/language';
	import { api, ask, wordsOf, type Schemas } from '$lib/api/client';
	import { useCase } from '$lib/case/case.svelte';
	import { day } from '$lib/dates';
	import { byWhen } from '$lib/due/when';
	import { inUnits } from '$lib/shown.svelte';
	import OrderPlot from '$lib/sound/OrderPlot.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Notice from '$lib/ui/Notice.svelte';

	/** A case as its owner is told of it: plain words, no likelihoods. */
	const held = useCase();
	let told = $state.raw<Schemas['OwnerOut'] | null>(null);
	let wrong = $state('');
	$effect(() => {
		void held.changes;
		const params = { path: { case_id: held.id } };
		ask(api.GET('/api/cases/{case_id}/owner', { params })).then(
			(found) => ((told = found), (wrong = '')),
			(error) => (wrong = wordsOf(error))
		);
	});
	const recording = (id: string | null) => held.recordings.find((row) => row.id === id);
	const open = $derived(
		(told?.jobs ?? []).flatMap((job) => job.open.map((words) => ({ hub: job.hub, words })))
	);
</script>

{#if wrong}<Notice level="warn">{wrong}</Notice>{/if}
{#if told}
	<div class="flex flex-wrap gap-3 pb-3 print:hidden">
		<Button href="/cases/{held.id}/prove">Back to the proof</Button>
		<span class="grow"></span>
		<Button onclick={() => window.print()}><Printer aria-hidden="true" />Print</Button>
		<Button href="/api/cases/{held.id}/owner.pdf"><FileDown aria-hidden="true" />PDF</Button>
	</div>
	<article class="grid max-w-3xl gap-4">
		<header>
			<p class="text-faded">
				{told.workshop} · {told.person} · {day(told.closed_at ?? told.opened_at)}
			</p>
			<h1>{told.vehicle_label}{told.plate ? `, ${told.plate}` : ''}</h1>
			{#if told.complaint}<p>You told us: “{told.complaint}”</p>{/if}
		</header>
		{#each told.jobs as job (job.hub)}
			{@const [before, after] = [recording(job.before), recording(job.after)]}
			<section class="plate grid gap-2" aria-label="Job at {job.hub}">
				<h2>{job.where} <span class="font-mono">{job.hub}</span>: {small(job.decided)}</h2>
				{#if job.found.length}
					<h3>What we found</h3>
					<ul class="list-disc pl-6">
						{#each job.found as words (words)}<li>{inUnits(words)}</li>{/each}
					</ul>
				{/if}
				{#if job.parts.length && !job.untouched}<p><b>New:</b> {job.parts.join(', ')}.</p>{/if}
				{#if job.checks.length}
					<table class="w-full text-left">
						<thead><tr><th>Checked</th><th>Before</th><th>After</th></tr></thead>
						<tbody>
							{#each job.checks as check (check.label)}
								<tr class="border-t border-groove align-top">
									<td class="py-1 pr-3">{check.label}</td>
									<td class="py-1 pr-3 text-faded">{inUnits(check.before.join('; ')) || 'nothing noted'}</td>
									<td class="py-1"
										>{#if check.good}<Check class="inline size-5" aria-label="good" />{:else}<X
												class="inline size-5 text-oxide"
												aria-label="not good"
											/>{/if}
										{check.after}</td
									>
								</tr>
							{/each}
						</tbody>
					</table>
				{/if}
				{#if job.sound}<p><b>By its sound:</b> {job.sound}</p>{/if}
				{#if before && after}
					<OrderPlot recording={before} others={[after]} names={['before', 'after']} />
				{/if}
			</section>
		{/each}
		{#if told.outcome}<p><b>How it ended:</b> {told.outcome}</p>{/if}
		{#if told.photos.length}
			<div class="flex flex-wrap gap-2">
				{#each told.photos as photo (photo)}<img
						src="/api/photos/{photo}"
						alt="A part as it was found"
						class="h-40 rounded-sm"
					/>{/each}
			</div>
		{/if}
		{#if open.length}
			<section class="plate border-l-ochre" aria-label="Still open">
				<h2>Still open</h2>
				<ul class="list-disc pl-6">
					{#each open as one (one.hub + one.words)}<li>
							<span class="font-mono">{one.hub}</span>: {one.words}
						</li>{/each}
				</ul>
				{#if told.unproven_because}<p>Why: {told.unproven_because}</p>{/if}
			</section>
		{/if}
		{#if told.again.length}
			<section class="plate" aria-label="Please come back">
				<h2>Please come back</h2>
				<ul class="grid gap-1">
					{#each told.again as row (row.id)}
						<li>
							<b>{row.label}</b> <span class="font-mono">{row.hub}</span>: {byWhen(row)}. {inUnits(row.why)}
						</li>
					{/each}
				</ul>
			</section>
		{/if}
		<p class="text-faded">{told.nothing_above}</p>
	</article>
{/if}
