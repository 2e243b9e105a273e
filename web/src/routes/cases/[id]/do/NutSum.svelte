<script lang="ts">
	import { api, ask, type Schemas } from '$lib/api/client';
	import { length, mm } from '$lib/shown.svelte';
	import Figure from '$lib/ui/Figure.svelte';
	import SumForm from '$lib/ui/SumForm.svelte';
	import { fixed } from '$lib/units';

	let pitch = $state<number | null>(null);
	let angle = $state<number | null>(null);
	let preload = $state<number | null>(null);
	let found = $state.raw<Schemas['NutOut'] | null>(null);

	async function work() {
		found = null;
		if (pitch === null || angle === null) return;
		const body = { pitch_mm: mm(pitch), angle_deg: angle, preload_nm: preload ?? 0 };
		found = await ask(api.POST('/api/sums/nut', { body }));
	}
</script>

<SumForm title="End play from the nut’s angle" verb="Work it out" {work}>
	{#snippet fields()}
		<div class="grid gap-3 sm:grid-cols-3">
			<Figure
				label="Thread pitch"
				bind:value={pitch}
				of="length"
				above={0}
				needed="Give the thread’s pitch."
			/>
			<Figure
				label="Backed off by"
				bind:value={angle}
				unit={fixed('°', 1)}
				least={0}
				needed="Give the angle, such as 30."
			/>
			<Figure label="From a preload of" bind:value={preload} of="torque" least={0} placeholder="0" />
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
