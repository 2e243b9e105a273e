<script lang="ts">
	import { Tabs } from 'bits-ui';
	import { small } from '$lib/language';
	import type { Schemas } from '$lib/api/client';
	import HubName from '$lib/case/HubName.svelte';
	import PartsPlate from '$lib/case/PartsPlate.svelte';
	import DayPlate from './DayPlate.svelte';
	import type { JobState } from './job.svelte';
	import JobLists from './JobLists.svelte';
	import type { Means } from './means';
	import StepList from './StepList.svelte';
	import TakenAsUsual from './TakenAsUsual.svelte';

	/** The whole job beside its step: the hubs, what was taken as usual, every step, what to lay out, the day. */
	interface Props {
		work: JobState;
		job: Schemas['JobOut'];
		step: Schemas['StepOut'];
		means: Means;
		onmeans: (means: Means) => void;
		onchoose: (id: string) => void;
	}
	let { work, job, step, means, onmeans, onchoose }: Props = $props();
	let side = $state('steps');
</script>

<section class="grid content-start gap-3">
	<ul class="grid gap-2" aria-label="Jobs of this case">
		{#each job.jobs as one (one.hub)}
			<li class="plate flex flex-wrap items-baseline gap-x-3">
				<span class="font-semibold"><HubName hub={one.hub} /></span>
				<span>{one.choice_label}{one.repair_label ? `, then: ${small(one.repair_label)}` : ''}</span>
				<span class="text-faded">{one.left ? `${one.left} of ${one.steps} left` : 'done'}</span>
			</li>
		{/each}
	</ul>
	{#each job.jobs as one (one.hub)}
		<TakenAsUsual
			job={one}
			onsaid={(question, answer, words) =>
				void work.write(
					one.hub,
					{ fittings: { [question]: answer }, fastenings: {} },
					`${one.hub}: ${words}`
				)}
		/>
	{/each}
	{#if work.left.length}<PartsPlate />{/if}
	<Tabs.Root bind:value={side}>
		<Tabs.List class="flex gap-2 pb-3" aria-label="The whole job">
			{#each [['steps', 'Steps'], ['lists', 'To lay out'], ['day', 'The day']] as [key, words] (key)}
				<Tabs.Trigger
					value={key ?? ''}
					class="min-h-12 grow rounded-sm border border-faded bg-plate px-3 data-[state=active]:bg-blued data-[state=active]:text-on-blued"
					>{words}</Tabs.Trigger
				>
			{/each}
		</Tabs.List>
		<Tabs.Content value="steps" class="max-h-[70vh] overflow-y-auto" tabindex={-1}>
			{#if job.day}<StepList steps={work.steps} chosen={step.id} opens_h={job.day.opens_h} {onchoose} />{/if}
		</Tabs.Content>
		<Tabs.Content value="lists"
			>{#if job.lists}<JobLists lists={job.lists} caseId={work.held.id} />{/if}</Tabs.Content
		>
		<Tabs.Content value="day"><DayPlate {job} left={work.left} {means} {onmeans} /></Tabs.Content>
	</Tabs.Root>
</section>
