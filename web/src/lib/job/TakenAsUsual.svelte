<script lang="ts">
	import { small } from '$lib/language';
	import type { Schemas } from '$lib/api/client';
	import HubName from '$lib/case/HubName.svelte';
	import Choice from '$lib/ui/Choice.svelte';

	interface Props {
		job: Schemas['HubJobOut'];
		/** Takes what is there, for this hub and its mate. */
		onsaid: (question: string, answer: string, words: string) => void;
	}
	let { job, onsaid }: Props = $props();
</script>

{#if job.assumed.length}
	<details class="plate border-l-ochre">
		<summary class="min-h-12 content-center"
			><span class="font-semibold">Nobody said what is fitted at <HubName hub={job.hub} />.</span>
			Taken as usual: {job.assumed.map((row) => `${small(row.label)}: ${small(row.taken)}`).join('; ')}.
		</summary>
		<div class="grid gap-3 pt-2">
			{#each job.assumed as row (row.key)}
				<div class="grid gap-1">
					<p class="text-faded">{row.label}</p>
					<Choice
						label={row.label}
						options={row.options}
						bind:value={
							() => '',
							(answer) =>
								onsaid(row.key, answer, row.options.find((one) => one.key === answer)?.words ?? answer)
						}
						row
					/>
				</div>
			{/each}
		</div>
	</details>
{/if}
