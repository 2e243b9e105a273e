<script lang="ts">
	import { api, ask, type Schemas } from '$lib/api/client';
	import { useCase } from '$lib/case/case.svelte';
	import { length, lengthFigure, mmOf, unitLabel } from '$lib/shown.svelte';
	import Field from '$lib/ui/Field.svelte';
	import Tick from '$lib/ui/Tick.svelte';
	import SumForm from '$lib/ui/SumForm.svelte';
	import { typed } from '$lib/units';

	let { hub }: { hub: string } = $props();
	const held = useCase();
	const usual = $derived(held.hubs.find((row) => row.id === hub)?.window_max_mm ?? 0);
	let gap = $state('');
	let play = $derived(lengthFigure(usual));
	let stock = $state('');
	let both = $state(false);
	let found = $state.raw<Schemas['ShimsOut'] | null>(null);

	async function work() {
		found = null;
		const thicknesses = stock.split(/[;\s]+/).filter(Boolean);
		const body = {
			gap_mm: mmOf(typed(gap)),
			end_play_mm: mmOf(typed(play)),
			sides: both ? 2 : 1,
			stock_mm: thicknesses.map((text) => mmOf(typed(text))),
			tolerance_mm: 0.02
		};
		found = await ask(api.POST('/api/sums/shims', { body }));
	}
</script>

<SumForm title="Shim pack from the gap" verb="Make up the pack" {work}>
	{#snippet fields()}
		<div class="grid gap-3 sm:grid-cols-2">
			<Field label="Gap under the plate" bind:value={gap} unit={unitLabel('length')} numeric />
			<Field label="End play wanted, a side" bind:value={play} unit={unitLabel('length')} numeric />
		</div>
		<Field
			label="Shims in stock, with spaces between"
			bind:value={stock}
			unit={unitLabel('length')}
			placeholder="0.1 0.2 0.5 1"
		/>
		<Tick label="This pack sets both sides" bind:checked={both} />
	{/snippet}
	{#snippet answer()}
		{#if found}
			<p>Pack: <span class="font-mono text-2xl">{length(found.total_mm)}</span></p>
			<ol class="grid gap-1">
				{#each found.packs as pack (pack.shims_mm.join())}
					<li>{pack.shims_mm.map(lengthFigure).join(' + ')} = {length(pack.total_mm)}</li>
				{/each}
			</ol>
		{/if}
	{/snippet}
</SumForm>
