<script lang="ts">
	import type { Schemas } from '$lib/api/client';
	import { decimal } from '$lib/numbers';
	import Section from './Section.svelte';
	import { told } from './weeks';

	let { weeks }: { weeks: Schemas['WeekOut'][] } = $props();
	const rows = $derived(told(weeks));
	/** How full a week is, for a bar that ends at twice what there is. */
	const bar = (share: number | null, minutes: number) =>
		`${Math.min(100, (share ?? (minutes ? 2 : 0)) * 50)}%`;
</script>

<Section heading="Work by weeks" table="weeks">
	<ol class="grid gap-2">
		{#each rows as row (row.begins)}
			<li class="plate grid gap-1 {row.full ? 'border-l-oxide' : ''}">
				<div class="flex flex-wrap justify-between gap-x-4">
					<b>{row.label}{row.weeks > 1 ? `, ${decimal(row.weeks)} weeks` : ''}</b>
					<span class="font-mono">{decimal(row.minutes / 60, 1)} of {decimal(row.there_are / 60, 1)} h</span>
				</div>
				<div class="relative h-3 bg-groove" aria-hidden="true">
					<div
						class="h-3 {row.full ? 'bg-oxide' : 'bg-blued'}"
						style:width={bar(row.share, row.minutes)}
					></div>
					<div class="absolute inset-y-0 left-1/2 border-l-2 border-print"></div>
				</div>
				<span class="text-faded">{row.words}.</span>
			</li>
		{/each}
	</ol>
	<p class="text-faded">
		The line is what there is: the workshop’s hands and opening hours, five days a week. Open jobs stand in
		this week; minutes of a look are judgement.
	</p>
</Section>
