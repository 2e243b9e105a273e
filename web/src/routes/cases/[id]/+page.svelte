<script lang="ts">
	import { goto } from '$app/navigation';
	import { ArrowRight, Download } from '@lucide/svelte';
	import { useCase } from '$lib/case/case.svelte';
	import { entryWords } from '$lib/case/entry.svelte';
	import { bindKeys } from '$lib/keys.svelte';
	import { session } from '$lib/session.svelte';
	import { moment } from '$lib/dates';
	import { percent } from '$lib/shown.svelte';
	import Button from '$lib/ui/Button.svelte';
	import VehiclePlan from '$lib/vehicle/VehiclePlan.svelte';

	const held = useCase();
	const next = $derived(held.assessment?.next_test);
	const nextHref = $derived(
		next ? `/cases/${held.id}/${next.stage}${next.hub ? `?hub=${next.hub}` : ''}` : `/cases/${held.id}/hear`
	);
	const culprit = $derived(held.assessment?.culprits[0]);
	const known = $derived(culprit?.hub ? held.assessment?.hubs[culprit.hub] : undefined);
	const where = $derived(culprit?.hub ?? (culprit?.side ? `${culprit.side} side` : ''));
	const elsewhere = $derived(
		Object.entries(held.assessment?.elsewhere ?? {})
			.filter(([, share]) => share >= 0.05)
			.sort((a, b) => b[1] - a[1])
	);
	const log = $derived([
		...(held.detail?.observations ?? []).map((row) => ({ ...row, words: entryWords(row), when: row.at })),
		...held.recordings.map((row) => ({
			id: row.id,
			hub: row.place,
			words:
				row.state === 'waiting'
					? 'recorded, being heard …'
					: row.usable
						? 'recorded and heard'
						: 'recorded, not usable',
			person: row.person,
			when: row.made_at,
			superseded: row.withdrawn,
			withdrawn: false
		}))
	]);
	const newest = $derived([...log].sort((a, b) => b.when.localeCompare(a.when)).slice(0, 12));

	const toHub = (hub: string) => void goto(`/cases/${held.id}/decide?hub=${hub}`);
	$effect(() =>
		bindKeys([{ key: 'n', label: 'The next thing worth doing', run: () => void goto(nextHref) }])
	);
</script>

{#if held.detail && held.assessment}
	<div class="grid gap-5 wide:grid-cols-[3fr_2fr]">
		<section class="grid content-start gap-3">
			<div>
				<h1>{held.detail.vehicle_label}</h1>
				{#if held.detail.complaint}<p class="text-faded">“{held.detail.complaint}”</p>{/if}
			</div>
			<VehiclePlan vehicle={held.detail.vehicle_detail} judged={held.assessment.hubs} onselect={toHub} />
			{#if elsewhere.length}
				<p>
					<span class="text-faded">Elsewhere:</span>
					{#each elsewhere as [cause, share], n (cause)}{n ? ', ' : ''}{session.words('causes', cause)}
						{percent(share)}{/each}
				</p>
			{/if}
		</section>
		<div class="grid content-start gap-4">
			{#if culprit}
				<section class="plate grid gap-2 border-l-oxide" aria-label="The culprit">
					<p class="text-faded">{known?.standing_label ?? 'the hub is not settled yet'}</p>
					<p class="text-3xl leading-tight font-bold text-oxide">
						{where ? `${where}: ` : ''}{known?.cause_label ?? culprit.cause_label}
					</p>
					<p class="flex items-baseline gap-3">
						<span class="figure">{percent(culprit.probability)}</span><span>{known?.choice_label ?? ''}</span>
					</p>
					{#if culprit.hub}
						<div><Button href="/cases/{held.id}/decide?hub={culprit.hub}">Why this corner?</Button></div>
					{/if}
				</section>
			{/if}
			{#if next && !held.closed}
				<section class="plate grid gap-2 border-l-blued" aria-label="Next">
					<p class="text-faded">Next{next.hub ? `, at ${next.hub}` : ''} · about {next.minutes} min</p>
					<p class="text-xl leading-tight font-semibold">{next.label}</p>
					<p>{next.why}</p>
					<div>
						<Button href={nextHref} look="main" hotkey="n">Do this<ArrowRight aria-hidden="true" /></Button>
					</div>
				</section>
			{/if}
			<section class="grid gap-2" aria-label="Log">
				<h2>Log</h2>
				{#if newest.length}
					<ul class="grid gap-1">
						{#each newest as row (row.id)}
							<li
								class="border-b border-groove pb-1 {row.superseded || row.withdrawn
									? 'text-faded line-through'
									: ''}"
							>
								<span class="font-mono">{row.hub}</span>
								{row.words}
								<span class="block text-faded">{row.person}, {moment(row.when)}</span>
							</li>
						{/each}
					</ul>
				{:else}
					<p>Nothing found yet. Every reading and recording will stand here. Begin where you like.</p>
				{/if}
				<a
					class="flex min-h-12 items-center gap-2 underline underline-offset-4"
					href="/api/cases/{held.id}/bundle"
					download
				>
					<Download aria-hidden="true" />Take the case along (open format)
				</a>
			</section>
		</div>
	</div>
{/if}
