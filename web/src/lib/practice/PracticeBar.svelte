<script lang="ts">
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { api, ask, type Schemas } from '$lib/api/client';
	import { bindKeys } from '$lib/keys.svelte';
	import Button from '$lib/ui/Button.svelte';

	/** What is asked of a practice vehicle, on every screen of its case, and the way to the answer. */
	let { id }: { id: string } = $props();
	let exercise = $state.raw<Schemas['ExerciseOut'] | null>(null);
	const at = $derived(
		exercise?.at ? `${exercise.hubs.find((hub) => hub.key === exercise?.at)?.words ?? ''}: ` : ''
	);

	$effect(() => {
		void page.url.pathname; // what was said at the question is known here when one comes back
		const params = { path: { exercise_id: id } };
		void ask(api.GET('/api/training/exercises/{exercise_id}', { params })).then(
			(found) => (exercise = found),
			() => undefined
		);
	});
	const answer = () => void goto(`/practice/${id}`);
	$effect(() => bindKeys([{ key: ',', label: 'To the question', run: answer }]));
</script>

{#if exercise}
	<section
		class="mb-3 flex flex-wrap items-center gap-x-4 gap-y-1 border-2 border-dashed border-faded px-3 py-1"
		aria-label="Practice"
	>
		<span class="font-mono">{exercise.number}/{exercise.of}</span>
		<span class="min-w-0 grow basis-64 leading-tight">{at}{exercise.ask}</span>
		<Button href="/practice/{id}" look="main" hotkey=","
			>{exercise.told
				? 'What is told'
				: exercise.by_ear && !exercise.ear
					? 'Say what you hear'
					: 'Answer'}</Button
		>
	</section>
{/if}
