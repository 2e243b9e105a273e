<script lang="ts">
	import { api, ask, wordsOf, type Schemas } from '$lib/api/client';
	import { useCase } from '$lib/case/case.svelte';
	import { day, moment } from '$lib/dates';
	import Button from '$lib/ui/Button.svelte';
	import QualityReport from './QualityReport.svelte';

	let { recording }: { recording: Schemas['RecordingOut'] } = $props();
	const held = useCase();
	let wrong = $state('');

	/** Heard anew: what failed once may do better, and one whose hearing was cut off is taken up. */
	async function hearAgain() {
		try {
			const path = { recording_id: recording.id };
			await ask(api.POST('/api/recordings/{recording_id}/hear', { params: { path } }));
			await held.refresh();
		} catch (error) {
			wrong = wordsOf(error);
		}
	}
	async function setAside(withdrawn: boolean) {
		try {
			const path = { recording_id: recording.id };
			await ask(
				api.POST('/api/recordings/{recording_id}/withdraw', { params: { path }, body: { withdrawn } })
			);
			await held.refresh();
		} catch (error) {
			wrong = wordsOf(error);
		}
	}
</script>

<article class="plate grid gap-2" aria-label="Recording at {recording.place}">
	<p class="flex flex-wrap justify-between gap-x-3">
		<b class="font-mono text-lg">{recording.place}{recording.after_repair ? ', after the repair' : ''}</b>
		<span class="text-faded">{recording.person}, {moment(recording.made_at)}</span>
	</p>
	{#if recording.withdrawn}
		<p>
			Set aside: kept, but no witness. <Button look="quiet" onclick={() => setAside(false)}
				>Take it back</Button
			>
		</p>
	{:else}
		<QualityReport {recording} />
		{#if recording.ended_at}
			<p class="text-faded">
				The sound was taken away on {day(recording.ended_at)} by the workshop’s rule. What was heard stays.
			</p>
		{:else}
			<audio controls preload="none" src="/api/recordings/{recording.id}/audio" class="w-full"></audio>
		{/if}
		{#if recording.heard_by_another}
			<p class="text-faded">
				Heard by version {recording.heard_by}; this one may hear differently.
				{#if !recording.ended_at}<Button look="quiet" onclick={hearAgain}>Hear it again</Button>{/if}
			</p>
		{/if}
		{#if !held.closed}
			<div class="flex flex-wrap gap-2">
				<Button look="quiet" onclick={() => setAside(true)}>Set aside</Button>
				{#if recording.state !== 'done'}<Button look="quiet" onclick={hearAgain}>Hear it again</Button>{/if}
			</div>
		{/if}
	{/if}
	{#if wrong}<p class="text-oxide">{wrong}</p>{/if}
</article>
