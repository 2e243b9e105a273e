<script lang="ts">
	import Button from '$lib/ui/Button.svelte';
	import Field from '$lib/ui/Field.svelte';
	import Figure from '$lib/ui/Figure.svelte';
	import type { OwnWrench } from './policy';

	/** The workshop's torque wrenches, each with its own range; an empty line says nothing. */
	let { rows = $bindable() }: { rows: OwnWrench[] } = $props();
</script>

<fieldset class="plate grid gap-3">
	<legend class="px-1 font-semibold">Torque wrenches</legend>
	{#each rows as row, n (n)}
		<div class="grid gap-3 sm:grid-cols-[2fr_1fr_1fr_auto] sm:items-end">
			<Field label="What it is called" bind:value={row.label} />
			<Figure label="From" bind:value={row.least_nm} of="torque" above={0} />
			<Figure label="To" bind:value={row.most_nm} of="torque" above={0} />
			<Button look="quiet" onclick={() => (rows = rows.filter((_, at) => at !== n))}>Take it out</Button>
		</div>
	{/each}
	<div>
		<Button onclick={() => (rows = [...rows, { label: '', least_nm: null, most_nm: null }])}
			>Another wrench</Button
		>
	</div>
</fieldset>
