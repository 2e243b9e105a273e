<script lang="ts">
	import { api, ask, wordsOf, type Schemas } from '$lib/api/client';
	import { length, mmOf, nmOf, unitLabel } from '$lib/shown.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Field from '$lib/ui/Field.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import { typed } from '$lib/units';

	let pitch = $state('');
	let angle = $state('');
	let preload = $state('');
	let found = $state.raw<Schemas['NutOut'] | null>(null);
	let wrong = $state('');

	async function work() {
		wrong = '';
		found = null;
		try {
			const body = {
				pitch_mm: mmOf(typed(pitch)),
				angle_deg: typed(angle),
				preload_nm: preload.trim() ? nmOf(typed(preload)) : 0,
				nut_diameter_mm: 24
			};
			found = await ask(api.POST('/api/sums/nut', { body }));
		} catch (error) {
			wrong = wordsOf(error);
		}
	}
</script>

<details class="pl-[3.75rem] max-sm:pl-0">
	<summary class="flex min-h-12 cursor-pointer items-center font-semibold"
		>End play from the nut’s angle</summary
	>
	<form
		class="grid gap-3"
		onsubmit={(event) => {
			event.preventDefault();
			void work();
		}}
	>
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
		<Button type="submit">Work it out</Button>
		{#if found}
			<p><span class="font-mono text-2xl">{length(found.least_mm)} to {length(found.most_mm)}</span></p>
			<p class="text-faded">
				A range, as threads and clamps differ; thread and angle alone give {length(found.geometric_mm)}. Ask
				the dial.
			</p>
		{/if}
		{#if wrong}<Notice level="stop">{wrong}</Notice>{/if}
	</form>
</details>
