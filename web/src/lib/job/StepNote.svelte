<script lang="ts">
	import type { Schemas } from '$lib/api/client';
	import { moment } from '$lib/dates';
	import PartPhotos from '$lib/inspect/PartPhotos.svelte';
	import { inField } from '$lib/units';
	import { unitFor } from '$lib/shown.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Choice from '$lib/ui/Choice.svelte';
	import Field from '$lib/ui/Field.svelte';
	import Figure from '$lib/ui/Figure.svelte';
	import { submits } from '$lib/ui/submits';

	interface Props {
		step: Schemas['StepOut'];
		onnote: (note: string, quantity: string, value: number | null) => Promise<void>;
		disabled: boolean;
	}
	let { step, onnote, disabled }: Props = $props();
	/** Once: an answer that comes in never shuts it over what is being typed. */
	// svelte-ignore state_referenced_locally
	let open = $state(step.entries.some((row) => row.kind !== 'done'));
	let note = $state('');
	let of = $state<'torque' | 'length' | 'temperature'>('torque');
	let value = $state<number | null>(null);
	const said = $derived(step.entries.filter((row) => row.note || row.value !== null || row.kind === 'stuck'));
	/** What a photograph hangs on: the part, or the step of the whole job. */
	const part = $derived(step.part || (step.id.split('.').at(-1) ?? ''));
	const figure = (row: Schemas['EntryOut']) => {
		const unit = unitFor(row.quantity);
		return row.value === null ? '' : `${inField(row.value, unit)} ${unit.label}`;
	};

	async function keep() {
		if (!note.trim() && value === null) return;
		await onnote(note.trim(), value === null ? '' : of, value);
		note = '';
		value = null;
	}
</script>

<details class="plate py-1" bind:open>
	<summary class="min-h-12 content-center font-semibold">Note, figure, photograph</summary>
	<div class="grid gap-3 pt-2">
		{#if said.length}
			<ul class="grid gap-1">
				{#each said as row (row.id)}
					<li>
						{#if row.kind === 'stuck'}{row.rung ? 'Would not move. ' : 'Came loose. '}{/if}{row.note}
						{#if row.value !== null}<span class="font-mono">{figure(row)}</span>{/if}
						<span class="text-faded">{row.person}, {moment(row.at)}</span>
					</li>
				{/each}
			</ul>
		{/if}
		{#if !disabled}
			<form class="grid gap-3" onsubmit={submits(keep)}>
				<Field label="Note" bind:value={note} />
				<Choice
					label="Figure of"
					options={[
						{ key: 'torque', words: 'Torque' },
						{ key: 'length', words: 'Play or size' },
						{ key: 'temperature', words: 'Warmth' }
					]}
					bind:value={of}
					row
				/>
				{#key of}<Figure label="Figure" bind:value {of} />{/key}
				<div>
					<Button type="submit" disabled={!note.trim() && value === null}>Keep it with this step</Button>
				</div>
			</form>
		{/if}
		<PartPhotos hub={step.hub} {part} label={step.part_label || 'this step'} />
	</div>
</details>
