<script lang="ts">
	import { GraduationCap } from '@lucide/svelte';
	import { api, ask, wordsOf, type Schemas } from '$lib/api/client';
	import { counted } from '$lib/numbers';
	import MayNot from '$lib/people/MayNot.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Notice from '$lib/ui/Notice.svelte';

	/** Lets a closed and proven case be learnt on, by one tap. */
	let { id }: { id: string } = $props();
	let lesson = $state.raw<Schemas['LessonOut'] | null>(null);
	let wrong = $state('');
	let busy = $state(false);
	const params = $derived({ path: { case_id: id } });

	$effect(() => {
		void ask(api.GET('/api/cases/{case_id}/lesson', { params })).then(
			(found) => (lesson = found),
			() => undefined // without a network nothing is said of it
		);
	});
	async function set(kept: boolean) {
		busy = true;
		wrong = '';
		try {
			lesson = await ask(api.PUT('/api/cases/{case_id}/lesson', { params, body: { kept } }));
		} catch (error) {
			wrong = wordsOf(error);
		} finally {
			busy = false;
		}
	}
</script>

{#if lesson}
	<section class="plate grid gap-2" aria-label="Learn on this case">
		<h2>Learn on this case</h2>
		{#if lesson.kept}
			<p>
				It comes in rounds of practice: {lesson.answered
					? counted(lesson.answered, ['one answer', '# answers'])
					: 'no answer yet'}.
			</p>
			<MayNot need="decide"
				><div>
					<Button onclick={() => void set(false)} disabled={busy}>Take it out of practice</Button>
				</div></MayNot
			>
		{:else if lesson.why_not}
			<p class="text-faded">{lesson.why_not}</p>
		{:else}
			<p>
				Its sounds, finds and figures go along. Names, plate, pictures and free words stay here. Voices in a
				recording are not taken out: listen before.
			</p>
			<MayNot need="decide">
				<div>
					<Button look="main" onclick={() => void set(true)} disabled={busy}
						><GraduationCap aria-hidden="true" />Make it a practice case</Button
					>
				</div>
			</MayNot>
		{/if}
		{#if wrong}<Notice level="stop">{wrong}</Notice>{/if}
	</section>
{/if}
