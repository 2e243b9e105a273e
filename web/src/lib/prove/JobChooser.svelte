<script lang="ts">
	import type { Schemas } from '$lib/api/client';
	import { useCase } from '$lib/case/case.svelte';
	import Button from '$lib/ui/Button.svelte';

	interface Props {
		/** Every job of the case: the latest verdict at each hub. */
		jobs: Schemas['VerdictOut'][];
		chosen: string;
	}
	let { jobs, chosen }: Props = $props();
	const held = useCase();
</script>

{#if jobs.length > 1}
	<nav class="flex flex-wrap gap-2" aria-label="Jobs of this case">
		{#each jobs as job (job.id)}
			<Button href="/cases/{held.id}/prove?hub={job.hub}" look={job.id === chosen ? 'main' : undefined}>
				<span class="font-mono">{job.hub}</span>: {job.choice_label}
			</Button>
		{/each}
	</nav>
{/if}
