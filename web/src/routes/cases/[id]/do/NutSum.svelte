<script lang="ts">
	import { api, ask, type Schemas } from '$lib/api/client';
	import { length, mmOf, nmOf, unitLabel } from '$lib/shown.svelte';
	import Field from '$lib/ui/Field.svelte';
	import SumForm from '$lib/ui/SumForm.svelte';
	import { typed } from '$lib/units';

	let pitch = $state('');
	let angle = $state('');
	let preload = $state('');
	let found = $state.raw<Schemas['NutOut'] | null>(null);

	async function work() {
		found = null;
		const body = {
			pitch_mm: mmOf(typed(pitch)),
			angle_deg: typed(angle),
			preload_nm: preload.trim() ? nmOf(typed(preload)) : 0,
			nut_diameter_mm: 24
		};
		found = await ask(api.POST('/api/sums/nut', { body }));
	}
</script>

<SumForm title="End play from the nut’s angle" verb="Work it out" {work}>
	{#snippet fields()}
		<div class="grid gap-3 sm:grid-cols-3">
			<Field label="Thread pitch" bind:value={pitch} unit={unitLabel('length')} numeric />
			<Field label="Backed off by" bind:value={angle} unit="°" numeric />
			<Field
				label="From a preload of"
				bind:value={preload}
				unit={unitLabel('torque')}
				numeric
				placeholder="0"
			/>
		</div>
	{/snippet}
	{#snippet answer()}
		{#if found}
			<p><span class="font-mono text-2xl">{length(found.least_mm)} to {length(found.most_mm)}</span></p>
			<p class="text-faded">
				A range, as threads and clamps differ; thread and angle alone give {length(found.geometric_mm)}. Ask
				the dial.
			</p>
		{/if}
	{/snippet}
</SumForm>
