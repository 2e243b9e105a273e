<script lang="ts">
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { ArrowRight, Download, Footprints } from '@lucide/svelte';
	import { testHref } from '$lib/case/answers';
	import { useCase } from '$lib/case/case.svelte';
	import { entryWords } from '$lib/case/entry.svelte';
	import TestPads from '$lib/case/TestPads.svelte';
	import { bindKeys } from '$lib/keys.svelte';
	import { session } from '$lib/session.svelte';
	import { moment } from '$lib/dates';
	import { inUnits, percent } from '$lib/shown.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import VehiclePlan from '$lib/vehicle/VehiclePlan.svelte';

	const held = useCase();
	/** A practice case says nothing of what is believed before the answer. */
	const blind = $derived(Boolean(held.detail?.withheld));
	const next = $derived(held.assessment?.next_test);
	const nextHref = $derived(
		!next
			? `/cases/${held.id}/hear`
			: ['decide', 'do', 'prove'].includes(next.stage)
				? `/cases/${held.id}/${next.stage}${next.hub ? `?hub=${next.hub}` : ''}`
				: testHref(held.id, next.test, next.hub)
	);
	const asked = $derived(page.url.searchParams.get('hub'));
	/** The hub whose tests are laid out; none is the vehicle as a whole. */
	const at = $derived(held.hubs.some((hub) => hub.id === asked) ? (asked ?? '') : '');
	/** The gravest first: what is a danger, then the surest. */
	const culprit = $derived(
		held.assessment?.culprits.find(
			(one) => one.hub && held.assessment?.hubs[one.hub]?.standing === 'danger'
		) ?? held.assessment?.culprits[0]
	);
	const known = $derived(culprit?.hub ? held.assessment?.hubs[culprit.hub] : undefined);
	const where = $derived(culprit?.hub ?? session.reference?.wording.sides[culprit?.side ?? ''] ?? '');
	const clashes = $derived(held.assessment?.contradictions ?? []);
	const elsewhere = $derived(Object.entries(held.assessment?.beside ?? {}));
	/** At each hub how much is known: recorded, and how many of its tests are answered. */
	const done = $derived(
		Object.fromEntries(
			held.hubs.map((hub) => {
				const tests = held.assessment?.tests[hub.id] ?? [];
				const answered = tests.filter((key) => held.standing(hub.id, key)).length;
				const heard = held.recordings.some((row) => row.place === hub.id && row.usable && !row.withdrawn);
				const seen = held.assessment?.hubs[hub.id]?.inspection.looked.length;
				const parts = [
					heard && 'heard',
					answered && `${answered} of ${tests.length} tests`,
					seen && `${seen} parts seen`
				].filter(Boolean);
				return [hub.id, parts.join(', ')];
			})
		)
	);
	const fine = $derived(held.assessment?.nothing_wrong ?? 0);
	const log = $derived([
		...(held.detail?.observations ?? []).map((row) => ({
			...row,
			words: (row.test && `${row.test}: `) + entryWords(row),
			when: row.found_at
		})),
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
		})),
		...(held.detail?.work ?? []).map((row) => ({
			id: row.id,
			hub: row.hub,
			words: inUnits(row.words),
			person: row.person,
			when: row.at,
			superseded: row.undone,
			withdrawn: false
		}))
	]);
	const newest = $derived([...log].sort((a, b) => b.when.localeCompare(a.when)).slice(0, 12));

	/** A hub chosen again goes back to the whole vehicle. */
	const toHub = (hub: string) =>
		void goto(`/cases/${held.id}${hub === at ? '' : `?hub=${hub}`}`, {
			replaceState: true,
			keepFocus: true,
			noScroll: true
		});
	$effect(() =>
		bindKeys([
			...(blind ? [] : [{ key: 'n', label: 'The next thing worth doing', run: () => void goto(nextHref) }]),
			{ key: 'b', label: 'One test at a time', run: () => void goto(`/cases/${held.id}/guide`) },
			{
				key: 'c',
				label: 'Why this corner',
				run: () => void goto(`/cases/${held.id}/why${at ? `?hub=${at}` : ''}`)
			},
			{ key: '0', label: 'The whole vehicle', run: () => void toHub(at) }
		])
	);
</script>

{#if held.detail && held.assessment}
	<div class="grid gap-5 wide:grid-cols-[3fr_2fr]">
		<section class="grid content-start gap-3">
			<div>
				<h1>{held.detail.vehicle_label}</h1>
				{#if held.detail.complaint}<p class="text-faded">“{held.detail.complaint}”</p>{/if}
			</div>
			<VehiclePlan
				vehicle={held.detail.vehicle_detail}
				judged={blind ? {} : held.assessment.hubs}
				selected={at || undefined}
				known={done}
				onselect={toHub}
			/>
		</section>
		<div class="grid content-start gap-4">
			{#if blind}
				<section class="plate grid gap-2 border-l-blued" aria-label="Practice">
					<p class="text-xl leading-tight font-semibold">Find out for yourself</p>
					<p>
						Everything works as on a real vehicle. The bench says what it believes once you have answered.
					</p>
				</section>
			{:else if held.assessment.road.key === 'no' && !held.closed}
				<Notice level="stop">
					<b>Not to be driven ({held.assessment.road.hub}).</b>
					{inUnits(held.assessment.road.because.join(' '))}
				</Notice>
			{/if}
			{#if held.closed && held.detail.outcome}
				<section class="plate grid gap-2 border-l-blued" aria-label="How it ended">
					<p class="text-faded">Closed</p>
					<p class="text-2xl leading-tight font-bold">{held.detail.outcome}</p>
					{#if held.detail.closing}<p>{held.detail.closing}</p>{/if}
					{#if held.detail.unproven_because}
						<p><span class="text-faded">Closed all the same:</span> {held.detail.unproven_because}</p>
					{/if}
					<div><Button href="/cases/{held.id}/prove">Before and after</Button></div>
				</section>
			{:else if culprit && !blind}
				<section class="plate grid gap-2 border-l-oxide" aria-label="The culprit">
					<p class="text-faded">{known?.standing_label ?? 'the hub is not settled yet'}</p>
					<p class="text-3xl leading-tight font-bold text-oxide">
						{where ? `${where}: ` : ''}{culprit.cause_label}
					</p>
					<p class="flex items-baseline gap-3">
						<span class="figure">{percent(culprit.probability)}</span><span>{known?.choice_label ?? ''}</span>
					</p>
					{#if culprit.mechanism_label}
						<p class="text-faded">
							Most of it {culprit.mechanism_label}: {percent(culprit.mechanism_probability)} by itself.
						</p>
					{/if}
					{#each held.assessment.culprits.filter((one) => one !== culprit) as other (other.cause + (other.hub ?? other.side))}
						<p>
							And <span class="font-mono">{other.hub ?? (other.side ? `${other.side} side` : '')}</span>
							{other.cause_label}, {percent(other.probability)}
						</p>
					{/each}
					{#if culprit.hub}
						<div class="flex flex-wrap gap-2">
							<Button href="/cases/{held.id}/why?hub={culprit.hub}" hotkey="c">Why this corner?</Button>
							<Button href="/cases/{held.id}/decide?hub={culprit.hub}">Decide</Button>
						</div>
					{/if}
				</section>
			{/if}
			{#each clashes as clash (clash.hub)}
				<Notice level="warn">
					<b>{clash.hub}: two witnesses pull apart.</b> “{clash.speaks_for}” against “{clash.speaks_against}”.
				</Notice>
			{/each}
			{#if next && !held.closed && !blind}
				<section class="plate grid gap-2 border-l-blued" aria-label="Next">
					<p class="text-faded">Next{next.hub ? `, at ${next.hub}` : ''} · about {next.minutes} min</p>
					<p class="text-xl leading-tight font-semibold">{inUnits(next.label)}</p>
					<p>{inUnits(next.why)}</p>
					<div class="flex flex-wrap gap-2">
						<Button href={nextHref} look="main" hotkey="n">Do this<ArrowRight aria-hidden="true" /></Button>
						<Button href="/cases/{held.id}/guide" hotkey="b"
							><Footprints aria-hidden="true" />One test at a time</Button
						>
					</div>
				</section>
			{/if}
		</div>
		<div class="grid content-start gap-3">
			{#if !blind}<section class="grid gap-1" aria-label="Causes elsewhere">
					<p class="text-faded">Elsewhere:</p>
					<ul class="grid gap-x-6 gap-y-1 sm:grid-cols-2">
						{#each elsewhere as [cause, share] (cause)}
							<li class="grid grid-cols-[1fr_auto] items-center gap-2">
								<span>{session.words('causes', cause)}</span><span class="font-mono">{percent(share)}</span>
								<span class="col-span-2 h-1.5 bg-groove"
									><span class="block h-full bg-ochre" style:width="{share * 100}%"></span></span
								>
							</li>
						{/each}
						<li class="grid grid-cols-[1fr_auto] items-center gap-2">
							<span>nothing wrong at all</span><span class="font-mono">{percent(fine)}</span>
							<span class="col-span-2 h-1.5 bg-groove"
								><span class="block h-full bg-faded" style:width="{fine * 100}%"></span></span
							>
						</li>
					</ul>
				</section>{/if}
			<section class="grid gap-2" aria-label="Tests">
				<h2>{at ? `Tests at ${at}` : 'The driver and the road'}</h2>
				{#if !at}<p class="text-faded">
						Choose a hub above, or press its number, for what can be tested there.
					</p>{/if}
				<TestPads hub={at} />
			</section>
		</div>
		<div class="grid content-start gap-4">
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
