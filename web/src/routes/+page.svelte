<script lang="ts">
	import { counted } from '$lib/numbers';
	import { goto } from '$app/navigation';
	import { CalendarClock, Plus } from '@lucide/svelte';
	import { api, ask, wordsOf, type Schemas } from '$lib/api/client';
	import CaseRow from '$lib/case/CaseRow.svelte';
	import { bindKeys } from '$lib/keys.svelte';
	import { day } from '$lib/dates';
	import { distance, inUnits } from '$lib/shown.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Field from '$lib/ui/Field.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Turner from '$lib/ui/Turner.svelte';
	import AxleGlyph from '$lib/vehicle/AxleGlyph.svelte';

	let yard = $state.raw<Schemas['YardOut'] | null>(null);
	let search = $state('');
	let page = $state(1);
	let closedPage = $state(1);
	let wrong = $state('');
	let asked = 0;

	$effect(() => {
		void load(search, page, closedPage);
	});
	$effect(() => bindKeys([{ key: 'v', label: 'New vehicle', run: () => void goto('/vehicles/new') }]));

	async function load(words: string, number: number, closed_page: number) {
		const mine = ++asked;
		try {
			const query = { page: number, closed_page, search: words };
			const found = await ask(api.GET('/api/yard', { params: { query } }));
			if (mine !== asked) return;
			yard = found;
			wrong = '';
		} catch (error) {
			if (mine === asked) wrong = wordsOf(error);
		}
	}
	const board = $derived(
		(yard?.columns ?? []).map((column) => ({
			...column,
			cases: (yard?.open_cases ?? []).filter((row) => row.waits === column.key)
		}))
	);
</script>

<svelte:head><title>Yard · Hematite</title></svelte:head>

{#if wrong}<Notice level="stop"
		>{wrong}
		<Button look="quiet" onclick={() => load(search, page, closedPage)}>Try again</Button></Notice
	>{/if}
{#if yard}
	<div class="flex flex-wrap items-end gap-3 pb-4">
		<div class="min-w-56 grow">
			<Field
				label="Find a vehicle, a plate, a case, a word"
				bind:value={
					() => search,
					(words) => {
						search = words;
						page = closedPage = 1; // the third page of other words may not be there
					}
				}
			/>
		</div>
		<Button href="/vehicles/new" hotkey="v"><Plus aria-hidden="true" />New vehicle</Button>
	</div>
	<div class="grid gap-6 wide:grid-cols-[3fr_2fr]">
		<section class="grid content-start gap-4" aria-label="Open cases">
			<h1>{counted(yard.open_count, 'One open case', 'open cases')}</h1>
			{#each board as column (column.key)}
				<section class="grid gap-2 sm:grid-cols-[7rem_1fr]" aria-label={column.label}>
					<h2
						class="flex items-baseline gap-2 sm:grid sm:content-start sm:gap-0 {column.cases.length
							? ''
							: 'text-faded'}"
					>
						<span class="figure text-3xl">{column.cases.length}</span>
						<span class="text-base">{column.label}</span>
					</h2>
					{#if column.cases.length}
						<ul class="grid gap-2">
							{#each column.cases as row (row.id)}<CaseRow {row} />{/each}
						</ul>
					{/if}
				</section>
			{/each}
			{#if !yard.open_count}
				<p class="plate">
					{search
						? 'No open case of these words.'
						: 'A case is one complaint about one vehicle. Choose a vehicle to open one.'}
				</p>
			{/if}
		</section>
		<div class="grid content-start gap-6">
			{#if yard.rechecks.length}
				<section class="grid gap-2" aria-label="To be looked at again">
					<h2>To be looked at again</h2>
					<ul class="grid gap-2">
						{#each yard.rechecks as row (row.case)}
							<li>
								<a
									href="/vehicles/{row.vehicle}"
									class="plate flex min-h-14 items-start gap-3 py-2 {row.overdue
										? 'border-l-oxide'
										: 'border-l-ochre'}"
								>
									<CalendarClock class="mt-1 size-5 shrink-0 text-faded" aria-hidden="true" />
									<span
										><b>{row.vehicle_label}</b>
										<span class="block {row.overdue ? 'font-semibold text-oxide' : ''}"
											>{row.overdue ? 'overdue since' : 'due'}
											{day(row.due_on)}{row.after_km ? ` or after ${distance(row.after_km)}` : ''}</span
										>
										<span class="block text-faded">{inUnits(row.why)}</span></span
									>
								</a>
							</li>
						{/each}
					</ul>
				</section>
			{/if}
			<section class="grid gap-3" aria-label="Vehicles">
				<h2>{counted(yard.vehicle_count, 'One vehicle', 'vehicles')}</h2>
				<ul class="grid gap-2">
					{#each yard.vehicles as vehicle (vehicle.id)}
						<li>
							<a href="/vehicles/{vehicle.id}" class="plate flex min-h-14 items-center gap-4 py-1">
								<AxleGlyph axles={vehicle.axles} />
								<span
									><b>{vehicle.label}</b><span class="block text-faded"
										>{[vehicle.plate, vehicle.tyre].filter(Boolean).join(', ')}</span
									></span
								>
							</a>
						</li>
					{:else}
						<li class="plate">
							{search ? 'No vehicle of these words.' : 'No vehicles yet. Add the first one.'}
						</li>
					{/each}
				</ul>
				<Turner bind:page pages={yard.pages} of="vehicles" />
			</section>
			{#if yard.closed_cases.length}
				<section class="grid gap-2" aria-label="Closed cases">
					<h2>{search ? 'Closed' : 'Lately closed'}</h2>
					<ul class="grid gap-2">
						{#each yard.closed_cases as row (row.id)}<CaseRow {row} />{/each}
					</ul>
					<Turner bind:page={closedPage} pages={yard.closed_pages} of="closed cases" />
				</section>
			{/if}
		</div>
	</div>
{/if}
