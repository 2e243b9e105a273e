<script lang="ts">
	import { counted } from '$lib/numbers';
	import { goto } from '$app/navigation';
	import { ChartNoAxesColumn, Dumbbell, PackageOpen, Plus } from '@lucide/svelte';
	import { api, ask, wordsOf, type Schemas } from '$lib/api/client';
	import CaseRow from '$lib/case/CaseRow.svelte';
	import { bindKeys } from '$lib/keys.svelte';
	import DueRow from '$lib/due/DueRow.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Field from '$lib/ui/Field.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Turner from '$lib/ui/Turner.svelte';
	import AxleGlyph from '$lib/vehicle/AxleGlyph.svelte';

	let yard = $state.raw<Schemas['YardOut'] | null>(null);
	let due = $state.raw<Schemas['DueListOut'] | null>(null);
	const SHOWN = 6; // the whole list is a tap away
	let search = $state('');
	let page = $state(1);
	let closedPage = $state(1);
	let wrong = $state('');
	let asked = 0;

	$effect(() => {
		void load(search, page, closedPage);
	});
	$effect(() => void loadDue());
	async function loadDue() {
		try {
			due = await ask(api.GET('/api/due', {}));
		} catch (error) {
			wrong = wordsOf(error);
		}
	}
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
		<Button href="/practice"><Dumbbell aria-hidden="true" />Practice</Button>
		<Button href="/fleet"><ChartNoAxesColumn aria-hidden="true" />The fleet</Button>
		<Button href="/bundles"><PackageOpen aria-hidden="true" />Take in a bundle</Button>
		<Button href="/vehicles/new" hotkey="v"><Plus aria-hidden="true" />New vehicle</Button>
	</div>
	<div class="grid gap-6 wide:grid-cols-[3fr_2fr]">
		<section class="grid content-start gap-4" aria-label="Open cases">
			<h1>{counted(yard.open_count, ['One open case', '# open cases'])}</h1>
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
			{#if due?.count}
				<section class="grid gap-2" aria-label="To be looked at again">
					<div class="flex items-center justify-between gap-3">
						<h2>To be looked at again</h2>
						<Button href="/due" look="quiet">All of it</Button>
					</div>
					<ul class="grid gap-2">
						{#each due.rows.slice(0, SHOWN) as row (row.id)}<DueRow {row} />{/each}
					</ul>
					{#if due.count > SHOWN}<p class="text-faded">And {due.count - SHOWN} more.</p>{/if}
				</section>
			{/if}
			<section class="grid gap-3" aria-label="Vehicles">
				<h2>{counted(yard.vehicle_count, ['One vehicle', '# vehicles'])}</h2>
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
