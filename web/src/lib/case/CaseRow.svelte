<script lang="ts">
	import { Gavel, Package } from '@lucide/svelte';
	import type { Schemas } from '$lib/api/client';
	import { day } from '$lib/dates';

	/** A case on a list; `own`: among those of its vehicle, which need not be named. */
	let { row, own = false }: { row: Schemas['CaseBrief']; own?: boolean } = $props();
	const complaint = $derived(row.complaint || 'No complaint written down');
	const when = $derived(row.closed_at ? `closed ${day(row.closed_at)}` : `since ${day(row.opened_at)}`);
</script>

<li>
	<a href="/cases/{row.id}" class="plate block min-h-14 py-2 {row.closed_at ? '' : 'border-l-oxide'}">
		<span class="flex flex-wrap items-baseline justify-between gap-x-3">
			<b>{own ? complaint : row.vehicle_label}</b>
			<span class="text-faded">{when}</span>
		</span>
		{#if !own}<span class="block">{row.closed_at ? row.outcome : complaint}</span>{/if}
		{#if row.decided && (own || !row.closed_at)}<span class="flex items-center gap-2 font-semibold"
				><Gavel class="size-5 shrink-0 text-faded" aria-hidden="true" /><span>{row.decided}</span></span
			>{/if}
		{#if row.ordered}<span class="flex items-center gap-2"
				><Package class="size-5 shrink-0 text-faded" aria-hidden="true" />{row.ordered}</span
			>{/if}
		{#if own && row.outcome}<span class="block text-faded">{row.outcome}</span>{/if}
	</a>
</li>
