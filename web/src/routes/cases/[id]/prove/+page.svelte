<script lang="ts">
	import { page } from '$app/state';
	import { small } from '$lib/language';
	import { api, ask, wordsOf, type Schemas } from '$lib/api/client';
	import { useCase } from '$lib/case/case.svelte';
	import DialReadings from '$lib/case/DialReadings.svelte';
	import HubName from '$lib/case/HubName.svelte';
	import { session } from '$lib/session.svelte';
	import { coalesced } from '$lib/coalesced';
	import AsItStands from '$lib/prove/AsItStands.svelte';
	import BeforeAfter from '$lib/prove/BeforeAfter.svelte';
	import CheckList from '$lib/prove/CheckList.svelte';
	import JobChooser from '$lib/prove/JobChooser.svelte';
	import SoundPlate from '$lib/prove/SoundPlate.svelte';
	import DueRow from '$lib/due/DueRow.svelte';
	import PlanRows from '$lib/due/PlanRows.svelte';
	import { asPlanned } from '$lib/due/plans';
	import { km } from '$lib/shown.svelte';
	import FromWork from '$lib/practice/FromWork.svelte';
	import HearScreen from '$lib/sound/HearScreen.svelte';
	import RecordingCard from '$lib/sound/RecordingCard.svelte';
	import Waits from '$lib/outbox/Waits.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Field from '$lib/ui/Field.svelte';
	import Figure from '$lib/ui/Figure.svelte';
	import MayNot from '$lib/people/MayNot.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import { submits } from '$lib/ui/submits';

	const held = useCase();
	const params = { path: { case_id: held.id } };
	let proof = $state.raw<Schemas['ProofOut'] | null>(null);
	let job = $state.raw<Schemas['JobOut'] | null>(null);
	let believed = $state.raw<Schemas['AssessmentOut'] | null>(null);
	let outcome = $state('');
	let because = $state('');
	let planned = $state.raw<Schemas['PlanIn'][]>([]);
	let driven = $state<number | null>(null);
	let wrong = $state('');
	/** Whether the recorder lies open: by the state at the first look only, so that what comes in never shuts it. */
	let again = $state(false);
	const asked = $derived(page.url.searchParams.get('hub'));
	const hub = $derived(proof?.verdict?.hub ?? '');
	const verdict = $derived(proof?.verdict?.id ?? '');
	const afters = $derived(held.recordings.filter((row) => row.after_repair && row.place === hub).reverse());
	const heardBefore = $derived(held.recordings.find((row) => row.id === proof?.before));
	const heardAfter = $derived(held.recordings.find((row) => row.id === proof?.after));
	const design = $derived(
		session.reference?.designs.find((one) => one.key === held.hubs.find((row) => row.id === hub)?.design)
	);

	$effect(() => {
		void held.changes; // a new recording, or an answer, is a new proof
		void load(held.verdicts.filter((row) => row.hub === asked).at(-1)?.id);
	});

	/** One at a time: what is asked for last is shown last, however many entries come in meanwhile. */
	const load = coalesced(async (of: string | undefined) => {
		try {
			const query = { verdict: of };
			const [found, work, now] = await Promise.all([
				ask(api.GET('/api/cases/{case_id}/proof', { params: { ...params, query } })),
				ask(api.GET('/api/cases/{case_id}/job', { params: { ...params, query } })),
				ask(api.GET('/api/cases/{case_id}/assessment', { params: { ...params, query: { now: true } } }))
			]);
			believed = now;
			if (proof?.verdict?.id !== found.verdict?.id) again = !found.after && Boolean(found.before);
			proof = found;
			// Offered once: what somebody took out or moved stays so, however often the job is asked for.
			const offered = (row: Schemas['JobOut'] | null) =>
				row?.usual_rechecks?.map((one) => one.key + one.hub).join();
			if (offered(job) !== offered(work)) planned = asPlanned(work.usual_rechecks ?? []);
			job = work;
		} catch (error) {
			wrong = wordsOf(error);
		}
	});

	/** Made here, so that closing twice closes once. */
	const closing = crypto.randomUUID();
	const reading_id = crypto.randomUUID();
	async function close() {
		wrong = '';
		try {
			const body = {
				id: closing,
				outcome,
				rechecks: planned,
				odometer_km: km(driven),
				reading_id,
				unproven_because: because
			};
			await held.write('finish', body, 'Closing this case');
		} catch (error) {
			wrong = wordsOf(error);
		}
	}
</script>

{#if job?.verdict && proof?.verdict}
	<div class="grid gap-6 wide:grid-cols-2">
		<section class="grid content-start gap-4">
			<JobChooser jobs={job.jobs.map((one) => one.verdict)} chosen={job.verdict.id} />
			{#if proof.untouched}
				<h1>Plan the recheck of <HubName {hub} /></h1>
				<p>
					Decided: {small(job.verdict.choice_label)}. Nothing was mended here, so there is nothing to prove.
				</p>
			{:else}
				<h1>Prove <HubName {hub} /></h1>
				<p class="text-faded">
					{session.reference?.wording.caution_prove}
				</p>
				<CheckList checks={proof.checks} {hub} job={verdict} onlogged={() => void held.refresh(false)} />
				{#if design?.adjusts && !held.closed}
					<details class="plate">
						<summary class="min-h-12 content-center text-xl font-semibold">End play after, by dial</summary>
						<DialReadings {hub} job={verdict} />
					</details>
				{/if}
			{/if}
		</section>
		<section class="grid content-start gap-4">
			{#if !proof.untouched}
				<div
					class="plate grid gap-2 {proof.sound?.outcome === 'same' ? 'border-l-oxide' : ''}"
					aria-label="Before against after"
				>
					<h2>Before against after</h2>
					{#if proof.sound}
						<SoundPlate sound={proof.sound} standsFrom={proof.stands_from} />
						{#if heardBefore && heardAfter}
							<BeforeAfter
								before={heardBefore}
								after={heardAfter}
								alike={proof.sound.level_change_db !== null}
							/>
						{/if}
					{:else}
						<p>
							{proof.before
								? 'Record the repaired hub again: same place, same speed, same pickup as before.'
								: 'It was not recorded before. A recording now is judged by itself.'}
						</p>
					{/if}
				</div>
				{#if !held.closed}
					<details class="plate" bind:open={again}>
						<summary class="min-h-12 content-center text-xl font-semibold">Record it again</summary>
						<HearScreen place={hub} afterRepair onkept={() => void held.refresh()} />
					</details>
				{/if}
				{#each afters as recording (recording.id)}<RecordingCard {recording} />{/each}
				{#if believed}<AsItStands {believed} />{/if}
			{/if}
			{#if held.closed && held.detail}
				<div class="plate grid gap-1" aria-label="How it ended">
					<h2>How it ended</h2>
					<p class="text-xl">{held.detail.outcome}</p>
					{#if held.detail.closing}<p>{held.detail.closing}</p>{/if}
					{#if held.detail.unproven_because}
						<p><span class="text-faded">Closed all the same:</span> {held.detail.unproven_because}</p>
					{/if}
				</div>
			{/if}
			{#if held.closed && !held.detail?.practice}<FromWork id={held.id} />{/if}
			<div><Button href="/cases/{held.id}/owner">The page for the owner</Button></div>
			{#if job.rechecks?.length}
				<section class="grid gap-2" aria-label="Recheck">
					<h2>Looked at again</h2>
					<ul class="grid gap-2">
						{#each job.rechecks as row (row.id)}<DueRow {row} />{/each}
					</ul>
				</section>
			{:else if held.waiting('finish').length}
				<Waits entries={held.waiting('finish')} what="Closing"
					>The case is closed when the server is back.</Waits
				>
			{:else if !held.closed}
				<MayNot need="decide">
					<form class="plate grid gap-3" onsubmit={submits(close)}>
						<h2>Close the case, and come back</h2>
						{#if !proof.untouched && proof.closing}
							<p aria-label="What closing says">{proof.closing.words}</p>
						{/if}
						<Field
							label="How it ended"
							bind:value={outcome}
							placeholder="Unit replaced, quiet on the same road"
						/>
						{#if !proof.untouched && !proof.closing?.complete}
							<Field
								label="Not all is proven: why it is closed all the same"
								bind:value={because}
								placeholder="First drive tomorrow, the owner comes back on Friday"
							/>
						{/if}
						<Figure
							label="The odometer shows, so that distances can be counted"
							bind:value={driven}
							of="distance"
							least={0}
						/>
						<PlanRows usual={job.usual_rechecks ?? []} bind:planned />
						{#if wrong}<Notice level="stop">{wrong}</Notice>{/if}
						<Button type="submit" look="main">Close the case</Button>
					</form>
				</MayNot>
			{/if}
		</section>
	</div>
{:else if wrong}
	<Notice level="stop">{wrong}</Notice>
{:else if job}
	<div class="plate grid max-w-xl gap-3">
		<h1>Nothing to prove yet</h1>
		<p>A proof holds the repaired hub against what it sounded like before.</p>
		<div><Button look="main" href="/cases/{held.id}/decide">Decide</Button></div>
	</div>
{/if}
