<script lang="ts">
	import { api, ask, type Schemas } from '$lib/api/client';
	import { useCase } from '$lib/case/case.svelte';
	import { length, lengthFigure, mm, ofMm, unitFor, unitLabel, unitsOf } from '$lib/shown.svelte';
	import { read } from '$lib/figures';
	import Field from '$lib/ui/Field.svelte';
	import Figure from '$lib/ui/Figure.svelte';
	import Tick from '$lib/ui/Tick.svelte';
	import SumForm from '$lib/ui/SumForm.svelte';

	let { hub }: { hub: string } = $props();
	const held = useCase();
	const usual = $derived(held.hubs.find((row) => row.id === hub)?.window_max_mm ?? 0);
	let gap = $state<number | null>(null);
	let play = $derived(ofMm(usual));
	let stock = $state('');
	let both = $state(false);
	let found = $state.raw<Schemas['ShimsOut'] | null>(null);

	/** The shims as typed, one after another. Throws words where one is no figure. */
	function thicknesses(): number[] {
		return stock
			.split(/[;\s]+/)
			.filter(Boolean)
			.map((text) => {
				const found = read(text, unitFor('length'), unitsOf('length'));
				if (found.is !== 'figure') throw new Error(`“${text}” is no thickness. Nothing was made up.`);
				return mm(found.si);
			});
	}

	async function work() {
		found = null;
		if (gap === null || play === null) return;
		const body = {
			gap_mm: mm(gap),
			end_play_mm: mm(play),
			sides: both ? 2 : 1,
			stock_mm: thicknesses()
		};
		found = await ask(api.POST('/api/sums/shims', { body }));
	}
</script>

<SumForm title="Shim pack from the gap" verb="Make up the pack" {work}>
	{#snippet fields()}
		<div class="grid gap-3 sm:grid-cols-2">
			<Figure label="Gap under the plate" bind:value={gap} of="length" above={0} needed="Give the gap." />
			<Figure
				label="End play wanted, a side"
				bind:value={play}
				of="length"
				least={0}
				needed="Give the play that is wanted."
			/>
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
