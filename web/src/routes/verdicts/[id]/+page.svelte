<script lang="ts">
	import { session } from '$lib/session.svelte';
	import { counted } from '$lib/numbers';
	import { page } from '$app/state';
	import { ArrowRight, FileDown, Printer } from '@lucide/svelte';
	import { api, ask, wordsOf, type Schemas } from '$lib/api/client';
	import ChoicePlate from '$lib/decide/ChoicePlate.svelte';
	import PriceTable from '$lib/decide/PriceTable.svelte';
	import RoadPlate from '$lib/decide/RoadPlate.svelte';
	import WhyNot from '$lib/decide/WhyNot.svelte';
	import { moment } from '$lib/dates';
	import { length } from '$lib/shown.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Notice from '$lib/ui/Notice.svelte';

	let verdict = $state.raw<Schemas['VerdictPageOut'] | null>(null);
	let wrong = $state('');
	const id = $derived(page.params.id ?? '');
	const own = $derived(verdict?.ways.filter((way) => way.reason) ?? []);

	$effect(() => {
		const params = { path: { verdict_id: id } };
		let gone = false; // to another verdict
		ask(api.GET('/api/verdicts/{verdict_id}', { params })).then(
			(found) => gone || (verdict = found),
			(error) => gone || (wrong = wordsOf(error))
		);
		return () => (gone = true);
	});
</script>

<svelte:head><title>Verdict {verdict?.hub ?? ''} · Hematite</title></svelte:head>

{#if wrong}<Notice level="stop">{wrong}</Notice>{/if}
{#if verdict}
	<div class="grid gap-4">
		<div class="flex flex-wrap items-center gap-3 print:hidden">
			<Button href="/cases/{verdict.case}">Walkround</Button>
			<Button href="/cases/{verdict.case}/decide?hub={verdict.hub}">Decide</Button>
			<Button href="/cases/{verdict.case}/do" look="main">Do it<ArrowRight aria-hidden="true" /></Button>
			<span class="grow"></span>
			<Button onclick={() => window.print()}><Printer aria-hidden="true" />Print</Button>
			<a
				class="flex min-h-12 items-center gap-2 px-2 underline underline-offset-4"
				href="/api/verdicts/{verdict.id}/paper?units=metric"
				download><FileDown aria-hidden="true" />PDF, metric</a
			>
			<a
				class="flex min-h-12 items-center gap-2 px-2 underline underline-offset-4"
				href="/api/verdicts/{verdict.id}/paper?units=imperial"
				download><FileDown aria-hidden="true" />PDF, inches</a
			>
		</div>
		{#if verdict.newer}
			<Notice level="warn"
				>A newer verdict stands. <Button look="quiet" href="/verdicts/{verdict.newer}"
					>Read the newer one</Button
				></Notice
			>
		{:else if verdict.news}
			<Notice level="warn"
				>{counted(verdict.news, ['One entry has', '# entries have'])} changed since. <Button
					look="quiet"
					href="/cases/{verdict.case}/decide?hub={verdict.hub}">Decide anew</Button
				></Notice
			>
		{/if}
		<header class="grid gap-1">
			<p class="text-faded">
				{verdict.workshop} · verdict by {verdict.person}, {moment(verdict.at)}
				{#if verdict.older}· <a class="underline underline-offset-4" href="/verdicts/{verdict.older}"
						>the one before</a
					>{/if}
			</p>
			<p class="text-lg">
				<b>{verdict.vehicle_label}</b>{verdict.side ? `, ${verdict.side}` : ''}. {verdict.design_label}.
				{#if verdict.complaint}<span class="text-faded">“{verdict.complaint}”</span>{/if}
			</p>
		</header>
		<section class="plate border-l-4 border-l-blued" aria-label="Decided">
			<p class="text-faded">Decided</p>
			<p class="text-3xl leading-tight font-bold">{verdict.choice_label}</p>
			{#if verdict.choice !== verdict.advised}
				<p>Against the advice ({verdict.advised_label}): {verdict.reason}</p>
			{/if}
		</section>
		<div class="grid gap-4 wide:grid-cols-2">
			<div class="grid content-start gap-4">
				<ChoicePlate hub={verdict.hub} judged={verdict.judged} />
				<RoadPlate road={verdict.road} />
				<WhyNot others={verdict.judged.alternatives} />
			</div>
			<div class="grid content-start gap-4">
				<section class="grid gap-2" aria-label="Seen and measured">
					<h2>Seen and measured</h2>
					<ul class="grid list-disc gap-1 pl-5">
						{#each verdict.judged.inspection.looked as one (one.part)}
							<li>{one.words}{one.damage.length ? `: ${one.damage.join(', ')}` : ''}</li>
						{/each}
						{#each verdict.readings as read (read.hub)}
							<li>
								End play at {read.hub}: mean {length(read.mean_mm)}, spread {length(read.spread_mm)}; window {length(
									read.least_mm
								)} to {length(read.most_mm)} <span class="text-faded">({read.source})</span>
							</li>
						{/each}
						<li>
							{verdict.recordings} recordings and {verdict.judged.witnesses.length} witnesses weighed here
						</li>
					</ul>
					{#if verdict.photos.length}
						<ul class="flex flex-wrap gap-2">
							{#each verdict.photos as photo, n (photo)}
								<li>
									<a href="/api/photos/{photo}" target="_blank" rel="noreferrer"
										><img
											src="/api/photos/{photo}?small=true"
											alt="Photograph {n + 1} of what was found"
											class="h-28 rounded-sm border border-groove"
										/></a
									>
								</li>
							{/each}
						</ul>
					{/if}
				</section>
				{#if verdict.overturned_by.length}
					<section class="grid gap-2" aria-label="What would overturn it">
						<h2>What would overturn it</h2>
						<ul class="grid list-disc gap-1 pl-5">
							{#each verdict.overturned_by as one (one.words)}<li>
									{one.words}{one.hub ? ` (${one.hub})` : ''}
								</li>{/each}
						</ul>
					</section>
				{/if}
				{#if own.length}
					<section class="grid gap-2" aria-label="Otherwise than the workshop’s way">
						<h2>Otherwise than the workshop’s way</h2>
						<ul class="grid list-disc gap-1 pl-5">
							{#each own as way (way.school)}<li>{way.school}: {way.way} ({way.reason})</li>{/each}
						</ul>
					</section>
				{/if}
				{#if verdict.prices}<PriceTable
						prices={verdict.prices}
						certain={verdict.judged.choice_probability}
					/>{/if}
			</div>
		</div>
		<p class="text-faded">
			Judged by Hematite’s core {verdict.core_version}. {session.reference?.wording.nothing_above}
		</p>
	</div>
{/if}
