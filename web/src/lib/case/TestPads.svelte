<script lang="ts">
	import { Check, Minus } from '@lucide/svelte';
	import { session } from '$lib/session.svelte';
	import { testHref } from './answers';
	import { useCase } from './case.svelte';

	/** Every test that makes sense at a hub ('' for the vehicle), each one tap away, with what was found so far. */
	let { hub }: { hub: string } = $props();
	const held = useCase();
	const rows = $derived(
		(held.assessment?.tests[hub] ?? []).flatMap(
			(key) => session.reference?.witnesses.find((one) => one.key === key) ?? []
		)
	);
	const recorded = $derived(held.recordings.some((row) => row.place === hub && row.usable && !row.withdrawn));
	const parts = $derived(held.assessment?.hubs[hub]?.inspection.looked.length ?? 0);
	function found(key: string): string {
		if (key === 'fault_lines') return recorded ? 'recorded' : '';
		const said = held.standing(hub, key)?.words ?? '';
		return key === 'opened' && parts ? `${parts} parts looked at` : said;
	}
</script>

<ul class="grid gap-2 sm:grid-cols-2" aria-label={hub ? `Tests at ${hub}` : 'Tests of the whole vehicle'}>
	{#each rows as row (row.key)}
		{@const words = found(row.key)}
		<li>
			<a
				href={testHref(held.id, row.key, hub)}
				class="flex min-h-12 items-start gap-2 rounded-sm border border-faded bg-plate px-3 py-2 leading-tight {words
					? 'border-l-4 border-l-blued'
					: ''}"
			>
				{#if words}<Check class="mt-0.5 shrink-0" aria-hidden="true" />{:else}<Minus
						class="mt-0.5 shrink-0 text-faded"
						aria-hidden="true"
					/>{/if}
				<span>{row.label}<span class="block text-faded">{words || 'not yet'}</span></span>
			</a>
		</li>
	{/each}
</ul>
