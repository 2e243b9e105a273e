<script lang="ts">
	import { page } from '$app/state';
	import { small } from '$lib/language';
	import { api, ask, wordsOf, type Schemas } from '$lib/api/client';
	import { day } from '$lib/dates';
	import GrowthPlot from '$lib/growth/GrowthPlot.svelte';
	import { decimal } from '$lib/numbers';
	import { length } from '$lib/shown.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Choice from '$lib/ui/Choice.svelte';
	import Notice from '$lib/ui/Notice.svelte';

	let growth = $state.raw<Schemas['GrowthOut'] | null>(null);
	let wrong = $state('');
	let chosen = $state('');
	const id = $derived(page.params.id ?? '');

	$effect(() => void load(id));
	async function load(vehicle_id: string) {
		try {
			growth = await ask(api.GET('/api/vehicles/{vehicle_id}/growth', { params: { path: { vehicle_id } } }));
		} catch (error) {
			wrong = wordsOf(error);
		}
	}
	const kinds = $derived([...new Map((growth?.series ?? []).map((row) => [row.key, row.label]))]);
	const key = $derived(kinds.some(([one]) => one === chosen) ? chosen : (kinds[0]?.[0] ?? ''));
	/** What grows surely comes first, then what may, then what nobody can tell. */
	const RANK = ['surely', 'perhaps', 'no'];
	const rank = (row: Schemas['SeriesOut']) =>
		row.trend?.outside ? -1 : row.trend?.slope == null ? RANK.length : RANK.indexOf(row.trend.grows);
	const shown = $derived(
		(growth?.series ?? []).filter((row) => row.key === key).sort((a, b) => rank(a) - rank(b))
	);
	const mateOf = (row: Schemas['SeriesOut']) =>
		growth?.series.find((one) => one.key === row.key && one.hub === row.mate);
	const say = (row: Schemas['SeriesOut'], value: number) =>
		row.unit === 'mm' ? length(value) : `${decimal(value, 1)} ${row.unit}`;
</script>

<svelte:head><title>Trend of {growth?.vehicle_label ?? 'a vehicle'} · Hematite</title></svelte:head>

{#if wrong}<Notice level="stop">{wrong}</Notice>{/if}
{#if growth}
	<div class="flex flex-wrap items-center justify-between gap-3 pb-3">
		<h1>How {growth.vehicle_label} grows</h1>
		<Button href="/vehicles/{id}">Back to the vehicle</Button>
	</div>
	{#if kinds.length}
		{#if kinds.length > 1}
			<div class="pb-4">
				<Choice
					label="What is followed"
					options={kinds.map(([key, words]) => ({ key, words }))}
					bind:value={() => key, (one) => (chosen = one)}
					row
				/>
			</div>
		{/if}
		<div class="grid gap-5 wide:grid-cols-2">
			{#each shown as row (row.hub)}
				<section
					class="plate grid content-start gap-2 {row.trend?.outside
						? 'border-l-oxide'
						: row.trend?.soonest_on && row.trend.grows === 'surely'
							? 'border-l-ochre'
							: ''}"
					aria-label="{row.label} at {row.hub}"
				>
					<h2><span class="font-mono">{row.hub}</span> {small(row.label)}</h2>
					{#if row.trend}
						{#if row.trend.soonest_on && row.trend.grows === 'surely'}
							<p class="text-xl leading-tight font-semibold">
								{#if row.trend.latest_on}Act between {day(row.trend.soonest_on)} and {day(
										row.trend.latest_on
									)}{:else}
									Act from {day(row.trend.soonest_on)} on: until when, nobody can say{/if}
							</p>
						{/if}
						<p>
							{row.trend.words}
							{#if row.trend.slope !== null && row.trend.low !== null && row.trend.high !== null}
								<span class="text-faded"
									>{say(row, row.trend.slope)} a year ({say(row, row.trend.low)} to {say(
										row,
										row.trend.high
									)}), from {row.trend.visits} visits.</span
								>
							{/if}
							{row.beside_mate}
						</p>
					{/if}
					<GrowthPlot series={row} mate={mateOf(row)} />
					{#if row.source}<p class="text-faded">Limit: {row.source}.</p>{/if}
				</section>
			{/each}
		</div>
		<p class="max-w-3xl pt-4 text-faded">
			A range is right four times in five. What was measured before a repair says nothing of what stands there
			now. Dates are made from figures alone: a hub that growls, warms or wobbles is looked at now.
		</p>
	{:else}
		<p class="plate max-w-xl">
			Nothing has been measured at this vehicle yet. Play by dial, warmth with the air’s, time to rest and
			recordings are followed from visit to visit.
		</p>
	{/if}
{/if}
