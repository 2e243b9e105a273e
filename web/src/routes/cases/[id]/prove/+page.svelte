<script lang="ts">
	import { api, ask, wordsOf, type Schemas } from '$lib/api/client';
	import { useCase } from '$lib/case/case.svelte';
	import { session } from '$lib/session.svelte';
	import { day } from '$lib/dates';
	import { distanceFigure, distanceLabel, kmOf } from '$lib/shown.svelte';
	import HearScreen from '$lib/sound/HearScreen.svelte';
	import RecordingCard from '$lib/sound/RecordingCard.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Field from '$lib/ui/Field.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import { typed } from '$lib/units';

	const held = useCase();
	const params = { path: { case_id: held.id } };
	let proof = $state.raw<Schemas['ProofOut'] | null>(null);
	let job = $state.raw<Schemas['JobOut'] | null>(null);
	let outcome = $state('');
	let dueOn = $state('');
	let distance = $state('');
	let wrong = $state('');
	const hub = $derived(job?.verdict?.hub ?? '');
	const afters = $derived(held.recordings.filter((row) => row.after_repair && row.place === hub).reverse());
	const outcomes: Record<string, string> = {
		better: 'Better than before',
		same: 'Not proven',
		cannot_tell: 'Cannot tell'
	};

	$effect(() => {
		void held.recordings; // a new recording is a new proof
		void load();
	});

	async function load() {
		try {
			const [found, work] = await Promise.all([
				ask(api.GET('/api/cases/{case_id}/proof', { params })),
				ask(api.GET('/api/cases/{case_id}/job', { params }))
			]);
			proof = found;
			if (!job && work.usual_recheck) {
				dueOn = work.usual_recheck.due_on ?? '';
				distance = work.usual_recheck.after_km ? String(distanceFigure(work.usual_recheck.after_km)) : '';
			}
			job = work;
		} catch (error) {
			wrong = wordsOf(error);
		}
	}

	function recheckWords(recheck: Schemas['RecheckOut']): string {
		const date = recheck.due_on ? `by ${day(recheck.due_on)}` : '';
		const far = recheck.after_km ? `after ${distanceFigure(recheck.after_km)} ${distanceLabel()}` : '';
		return [date, far].filter(Boolean).join(' or ');
	}

	async function close() {
		wrong = '';
		try {
			const body = {
				outcome,
				due_on: dueOn || null,
				after_km: distance.trim() ? kmOf(typed(distance)) : null,
				why: job?.usual_recheck?.why ?? ''
			};
			await ask(api.POST('/api/cases/{case_id}/finish', { params, body }));
			await held.refresh();
		} catch (error) {
			wrong = wordsOf(error);
		}
	}
</script>

{#if wrong}<div class="pb-3"><Notice level="stop">{wrong}</Notice></div>{/if}
{#if job?.verdict}
	<div class="grid gap-6 wide:grid-cols-2">
		<section class="grid content-start gap-4">
			<h1>Prove <span class="font-mono">{hub}</span></h1>
			<p class="text-faded">
				Same place, same speed, same pickup as before. No road test before nuts and brakes are proven.
			</p>
			{#if !held.closed}<HearScreen place={hub} afterRepair onkept={load} />{/if}
			{#each afters as recording (recording.id)}<RecordingCard {recording} />{/each}
		</section>
		<section class="grid content-start gap-4">
			{#if proof}
				<div
					class="plate grid gap-2 {proof.outcome === 'same' ? 'border-l-oxide' : ''}"
					aria-label="Before against after"
				>
					<h2>Before against after</h2>
					{#if proof.ready}
						<p class="text-2xl font-bold">{outcomes[proof.outcome]}</p>
						{#if proof.level_change_db !== null}
							<p><span class="figure">{proof.level_change_db.toFixed(1)} dB</span> against before</p>
						{/if}
					{/if}
					<p>{proof.words}</p>
					{#if proof.lines.length}
						<table class="w-full">
							<thead
								><tr class="text-left"
									><th>Lines</th><th class="text-right">Before</th><th class="text-right">After</th></tr
								></thead
							>
							<tbody>
								{#each proof.lines as line (line.kind)}
									<tr class="border-t border-groove">
										<td class="py-1"
											>{session.words('line_kinds', line.kind)}{line.went
												? ': gone'
												: line.stayed
													? ': still there'
													: ''}</td
										>
										<td class="text-right font-mono">{line.before.toFixed(1)}</td>
										<td class="text-right font-mono">{line.after.toFixed(1)}</td>
									</tr>
								{/each}
							</tbody>
						</table>
						<p class="text-faded">
							Strength over chance, in standard deviations; from {proof.stands_from} on a line stands.
						</p>
					{/if}
				</div>
			{/if}
			{#if job.recheck}
				<div class="plate grid gap-1" aria-label="Recheck">
					<h2>Recheck</h2>
					<p class="text-xl">
						{recheckWords(job.recheck)}
					</p>
					<p>{job.recheck.why}</p>
				</div>
			{:else if !held.closed}
				<form
					class="plate grid gap-3"
					onsubmit={(event) => {
						event.preventDefault();
						void close();
					}}
				>
					<h2>Close the case with a recheck</h2>
					<p>{job.usual_recheck?.why}</p>
					<Field
						label="How it ended"
						bind:value={outcome}
						placeholder="Unit replaced, quiet on the same road"
					/>
					<div class="grid gap-3 sm:grid-cols-2">
						<Field label="Look again by" type="date" bind:value={dueOn} />
						<Field label="or after" bind:value={distance} unit={distanceLabel()} numeric />
					</div>
					<Button type="submit" look="main">Close the case</Button>
				</form>
			{/if}
		</section>
	</div>
{:else if job}
	<div class="plate grid max-w-xl gap-3">
		<h1>Nothing to prove yet</h1>
		<p>A proof holds the repaired hub against what it sounded like before.</p>
		<div><Button look="main" href="/cases/{held.id}/decide">Decide</Button></div>
	</div>
{/if}
