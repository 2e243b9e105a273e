<script lang="ts">
	import { inUnits } from '$lib/shown.svelte';
	import { Eye, Hand, TriangleAlert } from '@lucide/svelte';
	import type { Schemas } from '$lib/api/client';

	/** What to do, what to look for, the caution that belongs to it, and why it tells anything. */
	let { row, open = false }: { row: Schemas['WitnessTable']; open?: boolean } = $props();
</script>

<div class="grid gap-3 text-lg leading-snug">
	{#if row.caution}<p class="flex gap-3 text-ochre">
			<TriangleAlert class="mt-1 shrink-0" aria-hidden="true" /><span>{row.caution}</span>
		</p>{/if}
	<details {open}>
		<summary class="min-h-12 cursor-pointer py-2 text-base">How it is done, and why it tells</summary>
		<div class="grid gap-3">
			{#if row.do}<p class="flex gap-3">
					<Hand class="mt-1 shrink-0" aria-hidden="true" /><span>{inUnits(row.do)}</span>
				</p>{/if}
			{#if row.look}<p class="flex gap-3">
					<Eye class="mt-1 shrink-0" aria-hidden="true" /><span>{row.look}</span>
				</p>{/if}
			<p class="text-base text-faded">{inUnits(row.why)} About {row.minutes} min.</p>
		</div>
	</details>
</div>
