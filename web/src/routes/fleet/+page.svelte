<script lang="ts">
	import { FileDown } from '@lucide/svelte';
	import { api, ask, wordsOf, type Schemas } from '$lib/api/client';
	import { day } from '$lib/dates';
	import { counted, decimal, hundredths } from '$lib/numbers';
	import Button from '$lib/ui/Button.svelte';
	import Notice from '$lib/ui/Notice.svelte';

	let fleet = $state.raw<Schemas['FleetOut'] | null>(null);
	let wrong = $state('');
	const hours = (minutes: number) => decimal(minutes / 60, 1);

	const kinds = $derived([...new Set(fleet?.comebacks.map((row) => row.by) ?? [])]);
	/** How full a week is, for a bar that ends at twice what there is. */
	const bar = (share: number | null) => `${Math.min(100, (share ?? 2) * 50)}%`;

	void load();
	async function load() {
		try {
			fleet = await ask(api.GET('/api/fleet'));
			wrong = '';
		} catch (error) {
			wrong = wordsOf(error);
		}
	}
</script>

<svelte:head><title>The fleet · Hematite</title></svelte:head>

{#snippet heading(words: string, table: string)}
	<div class="flex flex-wrap items-center justify-between gap-3">
		<h2>{words}</h2>
		<Button href="/api/fleet/{table}.csv" download look="quiet"
			><FileDown aria-hidden="true" />CSV<span class="sr-only"> of {words.toLowerCase()}</span></Button
		>
	</div>
{/snippet}

{#if wrong}<Notice level="stop">{wrong} <Button look="quiet" onclick={load}>Try again</Button></Notice>{/if}
{#if fleet}
	<h1 class="pb-3">The fleet</h1>
	<div class="grid gap-6 wide:grid-cols-2">
		<section class="grid content-start gap-2" aria-label="Work by weeks">
			{@render heading('Work by weeks', 'weeks')}
			<ol class="grid gap-2">
				{#each fleet.weeks as week, n (week.begins)}
					{@const full = week.share === null || week.share > 1}
					<li class="plate grid gap-1 {full ? 'border-l-oxide' : ''}">
						<div class="flex flex-wrap justify-between gap-x-4">
							<span>{n === 0 ? 'This week' : n === 1 ? 'Next week' : `From ${day(week.begins)}`}</span>
							<span class="font-mono"
								>{hours(week.looks + week.jobs + week.carried)} of {hours(week.there_are)} h</span
							>
						</div>
						<div class="relative h-3 bg-groove" aria-hidden="true">
							<div class="h-3 {full ? 'bg-oxide' : 'bg-blued'}" style:width={bar(week.share)}></div>
							<div class="absolute inset-y-0 left-1/2 border-l-2 border-print"></div>
						</div>
						<span class="text-faded"
							>{[
								week.jobs ? `jobs ${hours(week.jobs)} h` : '',
								week.looks ? `looks ${hours(week.looks)} h` : '',
								week.carried ? `carried over ${hours(week.carried)} h` : ''
							]
								.filter(Boolean)
								.join(', ') || 'nothing planned'}{full ? ': more than there are hours' : ''}</span
						>
					</li>
				{/each}
			</ol>
			<p class="text-faded">
				Open jobs stand in this week. Hours by the workshop’s hands and opening, five days a week; a look’s
				minutes are judgement.
			</p>
		</section>

		<section class="grid content-start gap-2" aria-label="Parts to order">
			{@render heading('Parts to order', 'orders')}
			{#if fleet.orders.length}
				<ul class="grid">
					{#each fleet.orders as row (row.label + row.size)}
						<li class="grid grid-cols-[3rem_1fr] border-t border-groove py-2">
							<span class="font-mono">{row.count} ×</span>
							<span
								>{row.label}
								{#if row.size}<span class="font-mono">{row.size}</span>{/if}
								<span class="block text-faded"
									>{#each row.wanted as one, n (one.case)}{n ? '; ' : ''}<a
											class="underline underline-offset-4"
											href="/cases/{one.case}/do">{one.vehicle_label}</a
										>
										{one.hubs.join(', ')}{/each}</span
								>
							</span>
						</li>
					{/each}
				</ul>
			{:else}<p class="plate">No open job waits for a part that is not ordered.</p>{/if}
		</section>

		<section class="grid content-start gap-2" aria-label="Back too soon">
			{@render heading('Back too soon', 'comebacks')}
			<p class="text-faded">
				Repairs that came back within a year, of those watched for a year. The range is where the true share
				lies nineteen times in twenty.
			</p>
			{#each kinds as kind (kind)}
				<h3>{kind}</h3>
				<ul class="grid">
					{#each fleet.comebacks.filter((row) => row.by === kind) as row (row.name)}
						<li class="grid gap-x-4 border-t border-groove py-2 sm:grid-cols-[1fr_auto]">
							<span>{row.name}</span>
							<span class="font-mono"
								>{row.back} of {row.of} ({hundredths(row.low)} to {hundredths(row.high)})</span
							>
							<span class="text-faded sm:col-span-2">{row.words}</span>
						</li>
					{/each}
				</ul>
			{:else}<p class="plate">No repair was watched for a year yet.</p>{/each}
		</section>

		<section class="grid content-start gap-2" aria-label="Cost by vehicle">
			{@render heading('Cost by vehicle', 'costs')}
			<p class="text-faded">What was decided in the last year, as its verdicts priced it; nobody’s bill.</p>
			<ul class="grid">
				{#each fleet.costs as row (row.vehicle)}
					<li class="grid gap-x-4 border-t border-groove py-2 sm:grid-cols-[1fr_auto]">
						<a class="underline underline-offset-4" href="/vehicles/{row.vehicle}">{row.label}</a>
						<span class="font-mono"
							>{Object.entries(row.cost)
								.map(([coin, cost]) => `${coin} ${decimal(cost, 0)}`)
								.join(' + ') || 'not known'}</span
						>
						<span class="text-faded sm:col-span-2"
							>{counted(row.cases, 'one case', 'cases')}{row.unknown
								? `, ${row.unknown} without a price`
								: ''}</span
						>
					</li>
				{:else}
					<li class="plate">No case was closed in the last year.</li>
				{/each}
			</ul>
		</section>
	</div>
{/if}
