<script lang="ts">
	import { wordsOf, type Schemas } from '$lib/api/client';
	import { outbox } from '$lib/outbox/outbox.svelte';
	import { km, mm } from '$lib/shown.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Choice from '$lib/ui/Choice.svelte';
	import Field from '$lib/ui/Field.svelte';
	import Figure from '$lib/ui/Figure.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Pick from '$lib/ui/Pick.svelte';
	import { submits } from '$lib/ui/submits';

	interface Props {
		vehicle: string;
		hubs: string[];
		kinds: Schemas['LogKindOut'][];
		/** Written, or kept on the device. */
		onwritten: () => void;
	}
	let { vehicle, hubs, kinds, onwritten }: Props = $props();
	/** The device's own day: what is written here and sent tomorrow was done today. */
	const today = () => new Date().toLocaleDateString('sv');
	const blank = () => ({ part: '', number: '', batch: '', grease: '', words: '', by: '' });

	let kind = $state('fitted');
	let hub = $state('');
	let on = $state(today());
	let said = $state(blank());
	let torque = $state<number | null>(null);
	let play = $state<number | null>(null);
	let driven = $state<number | null>(null);
	let wrong = $state('');
	const asks = $derived({
		part: kind === 'fitted',
		grease: kind === 'greased' || kind === 'fitted',
		torque: kind === 'torqued' || kind === 'fitted',
		play: kind === 'set' || kind === 'measured'
	});

	async function write() {
		wrong = '';
		const id = crypto.randomUUID();
		const asked = {
			...(asks.part ? { part: said.part, number: said.number, batch: said.batch } : {}),
			...(asks.grease ? { grease: said.grease } : {}),
			...(asks.torque ? { torque_nm: torque } : {}),
			...(asks.play ? { play_mm: mm(play) } : {})
		};
		const body = { id, kind, hub, on, words: said.words, by: said.by, km: km(driven), ...asked };
		try {
			const to = `/api/vehicles/${vehicle}/logbook`;
			await outbox.enter({
				id,
				caseId: '',
				label: 'A line of the logbook',
				kind: 'write',
				method: 'POST',
				to,
				body
			});
			said = blank();
			torque = play = driven = null;
			onwritten();
		} catch (error) {
			wrong = wordsOf(error);
		}
	}
</script>

<form class="plate grid gap-3" onsubmit={submits(write)} aria-label="Write a line">
	<Choice
		label="What was done"
		options={kinds.map((row) => ({ key: row.key, words: row.label }))}
		bind:value={kind}
		row
	/>
	<div class="grid items-end gap-3 sm:grid-cols-3">
		<Pick
			label="Where"
			options={[{ key: '', words: 'The whole vehicle' }, ...hubs.map((key) => ({ key, words: key }))]}
			bind:value={hub}
		/>
		<Field label="On" type="date" bind:value={on} />
		<Figure label="The odometer showed" bind:value={driven} of="distance" least={0} />
		{#if asks.part}
			<Field label="Part" bind:value={said.part} placeholder="Hub unit, seal, bearing" />
			<Field label="Its number" bind:value={said.number} />
			<Field label="Batch" bind:value={said.batch} />
		{/if}
		{#if asks.grease}<Field label="Grease" bind:value={said.grease} />{/if}
		{#if asks.torque}<Figure label="Torque" bind:value={torque} of="torque" above={0} />{/if}
		{#if asks.play}<Figure label="Play" bind:value={play} of="length" least={0} />{/if}
		<Field label="In words" bind:value={said.words} />
		<Field label="Who did it, if not you" bind:value={said.by} />
	</div>
	{#if wrong}<Notice level="stop">{wrong}</Notice>{/if}
	<div><Button look="main" type="submit">Write it down</Button></div>
</form>
