<script lang="ts">
	import type { Schemas } from '$lib/api/client';
	import Section from './Section.svelte';

	let { orders }: { orders: Schemas['OrderOut'][] } = $props();
</script>

<Section heading="Parts to order" table="orders">
	<p class="text-faded">
		Of all open jobs together, but those whose parts are ordered or here. Where no number or size stands,
		nobody wrote down which it is; such parts are not put together.
	</p>
	<ul class="grid">
		{#each orders as row (row.label + row.size + row.wanted[0]?.case)}
			<li class="grid grid-cols-[3.5rem_1fr] border-t border-groove py-2">
				<span class="font-mono">{row.count} ×</span>
				<span
					>{row.label}
					{#if row.size}<span class="font-mono">{row.size}</span>{/if}
					<span class="block text-faded"
						>{#each row.wanted as one, n (one.case + one.hubs.join())}{n ? '; ' : ''}<a
								class="underline underline-offset-4"
								href="/cases/{one.case}/do">{one.vehicle_label}</a
							>
							{one.hubs.join(', ')}{/each}</span
					>
				</span>
			</li>
		{:else}
			<li class="plate">No open job waits for a part that is not ordered.</li>
		{/each}
	</ul>
</Section>
