<script lang="ts">
	import { FileDown } from '@lucide/svelte';
	import type { Snippet } from 'svelte';
	import { small } from '$lib/language';
	import Button from '$lib/ui/Button.svelte';

	/** One table of the fleet, which can be taken along as CSV. */
	let { heading, table, children }: { heading: string; table: string; children: Snippet } = $props();
</script>

<section class="grid content-start gap-2" aria-label={heading}>
	<div class="flex flex-wrap items-center justify-between gap-3">
		<h2>{heading}</h2>
		<Button href="/api/fleet/{table}.csv" download look="quiet"
			><FileDown aria-hidden="true" />CSV<span class="sr-only"> of {small(heading)}</span></Button
		>
	</div>
	{@render children()}
</section>
