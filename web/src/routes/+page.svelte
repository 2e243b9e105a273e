<script lang="ts">
	import { goto } from '$app/navigation';
	import { Gavel, Plus } from '@lucide/svelte';
	import { api, ask, wordsOf, type Schemas } from '$lib/api/client';
	import { bindKeys } from '$lib/keys.svelte';
	import { day } from '$lib/dates';
	import Button from '$lib/ui/Button.svelte';
	import Field from '$lib/ui/Field.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import AxleGlyph from '$lib/vehicle/AxleGlyph.svelte';

	let yard = $state.raw<Schemas['YardOut'] | null>(null);
	let search = $state('');
	let page = $state(1);
	let wrong = $state('');
	let asked = 0;

	$effect(() => {
		void load(search, page);
	});
	$effect(() => bindKeys([{ key: 'v', label: 'New vehicle', run: () => void goto('/vehicles/new') }]));

	async function load(words: string, number: number) {
		const mine = ++asked;
		try {
			const found = await ask(api.GET('/api/yard', { params: { query: { page: number, search: words } } }));
			if (mine !== asked) return;
			yard = found;
			wrong = '';
		} catch (error) {
			if (mine === asked) wrong = wordsOf(error);
		}
	}
</script>

<svelte:head><title>Yard · Hematite</title></svelte:head>

{#snippet caseRow(row: Schemas['CaseBrief'])}
	<li>
		<a href="/cases/{row.id}" class="plate block min-h-12 {row.closed_at ? '' : 'border-l-oxide'}">
			<span class="flex flex-wrap items-baseline justify-between gap-x-3">
				<b class="text-lg">{row.vehicle_label}</b>
				<span class="text-faded"
					>{row.closed_at ? `closed ${day(row.closed_at)}` : `opened ${day(row.opened_at)}`}</span
				>
			</span>
			<span class="block pt-1"
				>{row.closed_at ? row.outcome : row.complaint || 'No complaint written down'}</span
			>
			{#if row.decided && !row.closed_at}<span class="flex items-center gap-2 pt-1 font-semibold"
					><Gavel class="size-5 shrink-0 text-faded" aria-hidden="true" /><span>Decided, {row.decided}</span
					></span
				>{/if}
		</a>
	</li>
{/snippet}

{#if wrong}<Notice level="stop"
		>{wrong} <Button look="quiet" onclick={() => load(search, page)}>Try again</Button></Notice
	>{/if}
{#if yard}
	<div class="grid gap-6 wide:grid-cols-[3fr_2fr]">
		<section class="grid content-start gap-3" aria-label="Open cases">
			<h1>{yard.open_count === 1 ? 'One open case' : `${yard.open_count} open cases`}</h1>
			{#if yard.open_cases.length}
				<ul class="grid gap-2">
					{#each yard.open_cases as row (row.id)}{@render caseRow(row)}{/each}
				</ul>
			{:else}
				<p class="plate">A case is one complaint about one vehicle. Choose a vehicle to open one.</p>
			{/if}
			{#if yard.closed_cases.length}
				<h2 class="pt-3">Lately closed</h2>
				<ul class="grid gap-2">
					{#each yard.closed_cases as row (row.id)}{@render caseRow(row)}{/each}
				</ul>
			{/if}
		</section>
		<section class="grid content-start gap-3" aria-label="Vehicles">
			<div class="flex items-center justify-between gap-3">
				<h2>{yard.vehicle_count} vehicles</h2>
				<Button href="/vehicles/new" hotkey="v"><Plus aria-hidden="true" />New vehicle</Button>
			</div>
			<Field label="Find a vehicle" bind:value={search} />
			<ul class="grid gap-2">
				{#each yard.vehicles as vehicle (vehicle.id)}
					<li>
						<a href="/vehicles/{vehicle.id}" class="plate flex min-h-12 items-center gap-4 py-2">
							<AxleGlyph axles={vehicle.axles} />
							<span><b>{vehicle.label}</b><span class="block text-faded">{vehicle.tyre}</span></span>
						</a>
					</li>
				{:else}
					<li class="plate">{search ? 'No vehicle of that name.' : 'No vehicles yet. Add the first one.'}</li>
				{/each}
			</ul>
			{#if yard.pages > 1}
				<div class="flex items-center justify-between">
					<Button disabled={page <= 1} onclick={() => (page -= 1)}>Back</Button>
					<span>{page} of {yard.pages}</span>
					<Button disabled={page >= yard.pages} onclick={() => (page += 1)}>More</Button>
				</div>
			{/if}
		</section>
	</div>
{/if}
