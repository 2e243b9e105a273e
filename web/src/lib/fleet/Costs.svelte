<script lang="ts">
	import type { Schemas } from '$lib/api/client';
	import { counted, decimal } from '$lib/numbers';
	import Section from './Section.svelte';

	let { rows, vehicles }: { rows: Schemas['CostOut'][]; vehicles: number } = $props();
	const cost = (row: Schemas['CostOut']) =>
		Object.entries(row.cost)
			.map(([coin, sum]) => `${coin} ${decimal(sum)}`)
			.join(' + ') || 'not known';
	const cases = (row: Schemas['CostOut']) =>
		counted(row.cases, ['one case', '# cases']) +
		(row.unknown ? `, ${decimal(row.unknown)} without a price` : '');
</script>

<Section heading="Cost by vehicle" table="costs">
	<p class="text-faded">
		What was decided in cases closed within a year, as it was priced then; nobody’s bill.
	</p>
	<ul class="grid">
		{#each rows as row (row.vehicle)}
			<li class="flex flex-wrap justify-between gap-x-4 border-t border-groove py-2">
				<span
					><a class="underline underline-offset-4" href="/vehicles/{row.vehicle}">{row.label}</a>
					<span class="text-faded">{cases(row)}</span></span
				>
				<span class="font-mono">{cost(row)}</span>
			</li>
		{:else}
			<li class="plate">No case with a decision was closed within a year.</li>
		{/each}
	</ul>
	{#if vehicles > rows.length}
		<p class="text-faded">The {decimal(rows.length)} dearest of {decimal(vehicles)}; the table has all.</p>
	{/if}
</Section>
