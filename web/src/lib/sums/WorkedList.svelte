<script lang="ts">
	import type { Schemas } from '$lib/api/client';
	import { moment } from '$lib/dates';
	import { inUnits } from '$lib/shown.svelte';

	/** What was worked out at a hub and kept, the latest of each sum. */
	let { rows }: { rows: Schemas['WorkedOut'][] } = $props();
	const latest = $derived(rows.filter((row, n) => rows.findIndex((one) => one.sum === row.sum) === n));
</script>

{#if latest.length}
	<h3 class="font-semibold">Set and worked out</h3>
	<ul class="grid gap-1" aria-label="Set and worked out">
		{#each latest as row (row.id)}
			<li>
				<span class="text-faded">{row.label}:</span>
				{inUnits(row.line)}
				<span class="text-faded">{row.person}, {moment(row.at)}</span>
			</li>
		{/each}
	</ul>
{/if}
