<script lang="ts">
	import { outbox } from '$lib/outbox/outbox.svelte';
	import { wordsOf, type Schemas } from '$lib/api/client';
	import { session } from '$lib/session.svelte';
	import { celsius, km, mm, unitLabel } from '$lib/shown.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Field from '$lib/ui/Field.svelte';
	import Figure from '$lib/ui/Figure.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import { submits } from '$lib/ui/submits';

	interface Props {
		row: Schemas['PlannedOut'];
		ask: Schemas['AskOut'];
		onanswered: () => void;
	}
	let { row, ask, onanswered }: Props = $props();

	let readings = $state<(number | null)[]>([null, null, null]);
	let warm = $state<number | null>(null);
	let air = $state<number | null>(null);
	let driven = $state<number | null>(null);
	let note = $state('');
	let because = $state('');
	let wrong = $state('');
	/** Made here, so that an answer sent twice is one, and opens one case. */
	const numbers = { case: crypto.randomUUID(), reading_id: crypto.randomUUID(), id: crypto.randomUUID() };

	async function send(path: 'answer' | 'drop', body: object) {
		wrong = '';
		try {
			const to = `/api/rechecks/${row.id}/${path}`;
			const label = `${row.vehicle_label} ${row.hub}: ${row.label}`;
			await outbox.enter({ id: numbers.id, caseId: '', label, kind: 'write', method: 'POST', to, body });
			onanswered();
		} catch (error) {
			wrong = wordsOf(error);
		}
	}
	const say = (answer: string, reading: object = {}) =>
		send('answer', {
			case: numbers.case,
			reading_id: numbers.reading_id,
			answer,
			reading,
			note,
			km: km(driven)
		});

	async function byDial() {
		const read = readings.filter((one) => one !== null).map(mm);
		if (!read.length) return void (wrong = 'Give a reading of zero or more.');
		const resolution_mm = session.reference?.dial_resolutions_mm[unitLabel('length')];
		await say('', { readings_mm: read, resolution_mm });
	}
	const byWarmth = () =>
		say('', { temp_c: warm === null ? null : celsius(warm), ambient_c: air === null ? null : celsius(air) });
</script>

<div class="grid gap-3 pt-2">
	<div class="grid gap-2 sm:grid-cols-2">
		<Button look="main" onclick={() => void say('good')}>{ask.good}</Button>
		<Button onclick={() => void say('bad')}>{ask.bad}</Button>
	</div>
	{#if ask.reading === 'end_play'}
		<form class="grid gap-2" onsubmit={submits(byDial)}>
			<div class="grid grid-cols-3 gap-2">
				{#each readings as reading, n (n)}
					<Figure
						label="Dial {n + 1}"
						bind:value={() => reading, (value) => (readings[n] = value)}
						of="length"
						least={0}
					/>
				{/each}
			</div>
			<div><Button type="submit">Enter the readings</Button></div>
		</form>
	{:else if ask.reading === 'heat'}
		<form class="grid gap-2" onsubmit={submits(byWarmth)}>
			<div class="grid grid-cols-2 gap-2">
				<Figure label="Hub" bind:value={warm} of="temperature" needed="Give what the thermometer shows." />
				<Figure label="Air" bind:value={air} of="temperature" needed="Warm against what? Give the air’s." />
			</div>
			<div><Button type="submit">Enter the warmth</Button></div>
		</form>
	{/if}
	<details>
		<summary class="min-h-12 content-center">With it: odometer, a note; or not done</summary>
		<div class="grid gap-3 pb-2">
			<Figure label="The odometer shows" bind:value={driven} of="distance" least={0} />
			<Field label="Note" bind:value={note} />
			<form class="grid gap-2" onsubmit={submits(() => send('drop', { because }))}>
				<Field label="It is not done, because" bind:value={because} placeholder="Sold to another county" />
				<div><Button type="submit" disabled={!because.trim()}>Not done</Button></div>
			</form>
		</div>
	</details>
	{#if wrong}<Notice level="stop">{wrong}</Notice>{/if}
</div>
