<script lang="ts">
	import { wordsOf, type Schemas } from '$lib/api/client';
	import { day } from '$lib/dates';
	import { decimal } from '$lib/numbers';
	import { outbox } from '$lib/outbox/outbox.svelte';
	import Waits from '$lib/outbox/Waits.svelte';
	import { distance, km } from '$lib/shown.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Figure from '$lib/ui/Figure.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import { submits } from '$lib/ui/submits';
	import { fixed } from '$lib/units';

	interface Props {
		vehicle: string;
		upkeep: Schemas['UpkeepOut'];
		onread: () => void;
	}
	let { vehicle, upkeep, onread }: Props = $props();
	let driven = $state<number | null>(null);
	let hours = $state<number | null>(null);
	let wrong = $state('');
	const to = $derived(`/api/vehicles/${vehicle}/odometer`);
	const last = $derived(upkeep.readings.at(-1));
	const rate = $derived(upkeep.km_a_day);
	const countsHours = $derived(upkeep.readings.some((one) => one.hours !== null));
	let byHours = $state(false);
	/** The device's own day: what is read here and sent tomorrow was read today. */
	const today = () => new Date().toLocaleDateString('sv');

	async function enter(body: object, label: string) {
		wrong = '';
		try {
			const id = crypto.randomUUID();
			const sent = { id, on: today(), ...body };
			await outbox.enter({ id, caseId: '', label, kind: 'write', method: 'POST', to, body: sent });
			driven = hours = null;
			onread();
		} catch (error) {
			wrong = wordsOf(error);
		}
	}
	const read = () => enter({ km: km(driven), hours }, 'An odometer reading');
	const takeBack = () =>
		last && enter({ supersedes: last.id, withdrawn: true }, 'An odometer reading taken back');
	const perWeek = (a: number) => distance(a * 7);
</script>

<form class="plate grid gap-2" onsubmit={submits(read)} aria-label="Odometer">
	<h2>Odometer</h2>
	{#if last}
		<p>
			{last.km !== null ? distance(last.km) : ''}{last.hours !== null ? ` ${decimal(last.hours, 0)} h` : ''}
			<span class="text-faded">on {day(last.on)}, {last.person}</span>
		</p>
	{:else}
		<p class="text-faded">Never read. With a few readings distances turn into dates.</p>
	{/if}
	{#if rate}
		<p>
			About {perWeek(rate.per_day)} a week
			{#if rate.low !== null && rate.high !== null}
				<span class="text-faded">({perWeek(rate.low)} to {perWeek(rate.high)}).</span>{/if}
			<span class="text-faded">{rate.words}</span>
		</p>
	{/if}
	<div class="flex flex-wrap items-end gap-3">
		<div class="min-w-40 grow">
			<Figure label="It shows now" bind:value={driven} of="distance" least={0} />
		</div>
		{#if countsHours || byHours}
			<div class="min-w-32 grow">
				<Figure label="Hour meter" bind:value={hours} unit={fixed('h')} least={0} />
			</div>
		{/if}
		<Button type="submit" disabled={driven === null && hours === null}>Enter</Button>
		{#if last}<Button look="quiet" onclick={() => void takeBack()}>Take the last back</Button>{/if}
		{#if !countsHours && !byHours}<Button look="quiet" onclick={() => (byHours = true)}
				>It counts hours</Button
			>{/if}
	</div>
	<Waits entries={outbox.writes(to)} what="A reading">It is sent when the server is back.</Waits>
	{#if wrong}<Notice level="stop">{wrong}</Notice>{/if}
</form>
