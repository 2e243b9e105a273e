<script lang="ts">
	import { Accordion } from 'bits-ui';
	import { api, ask, Refused, wordsOf, type Schemas } from '$lib/api/client';
	import { toBody, toDraft, unfinished, type PolicyDraft } from '$lib/decide/policy';
	import { moment } from '$lib/dates';
	import { outbox } from '$lib/outbox/outbox.svelte';
	import Stock from '$lib/sums/Stock.svelte';
	import Wrenches from '$lib/decide/Wrenches.svelte';
	import Waits from '$lib/outbox/Waits.svelte';
	import { session } from '$lib/session.svelte';
	import { inUnits, length } from '$lib/shown.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Choice from '$lib/ui/Choice.svelte';
	import Field from '$lib/ui/Field.svelte';
	import Figure from '$lib/ui/Figure.svelte';
	import { fixed } from '$lib/units';
	import MayNot from '$lib/people/MayNot.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import { submits } from '$lib/ui/submits';

	// Figures are kept in SI: an older draft held text, in a unit that nobody knows any more.
	const KEPT = `draft-policy-si-${session.person?.id}`;
	let policy = $state.raw<Schemas['PolicyOut'] | null>(null);
	let draft = $state<PolicyDraft | null>(null);
	let wrong = $state('');
	let code = $state('');
	let saved = $state<'' | 'sent' | 'waits'>('');
	/** A figure's group: the workshop's own rates, or a hub design. */
	const groups = $derived(
		policy
			? [
					{ key: '', label: 'For every job' },
					...(session.reference?.designs ?? []).map((row) => ({ key: row.key, label: row.label }))
				].map((group) => ({
					...group,
					figures: (policy?.figures ?? []).filter((row) =>
						group.key ? row.key.startsWith(`${group.key}.`) : !row.key.includes('.')
					)
				}))
			: []
	);
	const start = $derived(policy ? JSON.stringify(toDraft(policy)) : '');
	const changed = $derived(draft !== null && JSON.stringify(draft) !== start);

	function take(found: Schemas['PolicyOut']) {
		policy = found;
		draft = toDraft(found);
	}
	/** Fetch the ways as they are now; what this person was typing comes back with them, or is let go. */
	async function load(typed = true) {
		try {
			take(await ask(api.GET('/api/policy')));
			const kept = localStorage.getItem(KEPT);
			if (kept && typed) draft = JSON.parse(kept) as PolicyDraft;
			wrong = code = '';
		} catch (error) {
			wrong = inUnits(wordsOf(error));
		}
	}
	$effect(() => void load());
	// What is typed survives a reload until it is saved.
	$effect(() => {
		if (changed) localStorage.setItem(KEPT, JSON.stringify(draft));
		else if (policy) localStorage.removeItem(KEPT);
	});

	async function save() {
		if (!draft || !policy) return;
		saved = '';
		wrong = unfinished(draft);
		if (wrong) return;
		try {
			const id = crypto.randomUUID();
			const entry = { id, caseId: '', label: 'The workshop’s ways', kind: 'write', method: 'PUT' } as const;
			const to = '/api/policy';
			const after = outbox.writes(to).at(-1)?.id;
			saved = await outbox.enter({ ...entry, to, body: toBody(draft, policy.revision, id, after) });
			if (saved === 'sent') await load(false);
		} catch (error) {
			wrong = inUnits(wordsOf(error));
			code = error instanceof Refused ? error.code : '';
		}
	}
	const shortly = (row: Schemas['FigureOut'], label: string) => row.label.replace(` (${label})`, '');
	const coin = (row: Schemas['FigureOut']) =>
		row.unit === 'money' ? (draft?.currency ?? '') : row.unit === 'share' ? '0 to 1' : row.unit;
</script>

<svelte:head><title>The workshop’s ways · Hematite</title></svelte:head>

{#if policy && draft}
	<form class="grid gap-6" onsubmit={submits(save)}>
		<div class="grid gap-1">
			<h1>The workshop’s ways</h1>
			<p class="text-faded">
				Where good mechanics differ, the workshop chooses; a case may go another way with a reason. A verdict
				keeps the ways that stood when it was accepted.
				{#if policy.changed_by && policy.changed_at}Last changed by {policy.changed_by}, {moment(
						policy.changed_at
					)}.{/if}
			</p>
		</div>
		<section class="grid gap-4 wide:grid-cols-2" aria-label="Ways of doing it">
			{#each policy.schools as school (school.key)}
				<fieldset class="plate grid content-start gap-2">
					<legend class="px-1 text-lg font-semibold">{school.label}</legend>
					<Choice
						label={school.label}
						options={school.options.map((one, n) => ({
							key: one.key,
							words: `${one.label}${n ? '' : ' (usual)'}`,
							hint: `+ ${one.gains} − ${one.costs}`
						}))}
						bind:value={
							() => draft?.schools[school.key] ?? '', (way) => draft && (draft.schools[school.key] = way)
						}
					/>
				</fieldset>
			{/each}
		</section>
		<section class="grid gap-3" aria-label="Limits of end play">
			<h2>Limits of end play</h2>
			<p class="text-faded">
				By hub design, with where the figure came from. A vehicle’s own limit stands before it; an empty row
				keeps the default.
			</p>
			<Accordion.Root type="multiple" class="grid gap-2">
				{#each policy.limits as limit (limit.design)}
					{@const row = draft.limits[limit.design]}
					{#if row}
						<Accordion.Item value={limit.design} class="plate py-1">
							<Accordion.Header>
								<Accordion.Trigger class="grid min-h-12 w-full gap-x-3 py-1 text-left sm:grid-cols-2">
									<span class="font-semibold">{limit.label}</span>
									<span class="text-faded"
										>{length(limit.least_mm)} to {length(limit.most_mm)}: {limit.source}</span
									>
								</Accordion.Trigger>
							</Accordion.Header>
							<Accordion.Content>
								<div
									class="grid gap-3 pb-3 sm:grid-cols-[1fr_1fr_2fr]"
									role="group"
									aria-label="Limits: {limit.label}"
								>
									<Figure label="Least" bind:value={row.least} of="length" least={0} />
									<Figure label="Most" bind:value={row.most} of="length" above={0} />
									<Field label="Where from" bind:value={row.source} placeholder="manual, page 41" />
								</div>
							</Accordion.Content>
						</Accordion.Item>
					{/if}
				{/each}
			</Accordion.Root>
		</section>
		<section class="grid gap-3" aria-label="What the workshop has">
			<h2>What the workshop has</h2>
			<p class="text-faded">
				The order of the day reckons with it: hands on one job, the press in the house (0: none; empty: nobody
				said), and the hours. The sums choose among its wrenches and its shims; a pack that is kept takes its
				shims out of the stock.
			</p>
			<div class="plate grid gap-3 sm:grid-cols-4">
				<Figure label="Pairs of hands" bind:value={draft.shop.hands} unit={fixed('', 0)} least={1} most={6} />
				<Figure label="Press" bind:value={draft.shop.press_t} unit={fixed('t', 0)} least={0} most={500} />
				<Figure label="Opens at" bind:value={draft.shop.opens_h} unit={fixed('h', 1)} least={0} most={24} />
				<Figure label="Closes at" bind:value={draft.shop.closes_h} unit={fixed('h', 1)} least={0} most={24} />
			</div>
			<div class="grid gap-3 wide:grid-cols-2">
				<Wrenches bind:rows={draft.shop.wrenches} />
				<div class="plate">
					<Stock
						label="Shims in stock"
						rows={draft.shop.shims}
						onset={(rows) => draft && (draft.shop.shims = rows)}
					/>
				</div>
			</div>
		</section>
		<section class="grid gap-3" aria-label="Prices">
			<h2>Prices</h2>
			<p class="text-faded">
				Every figure in grey is an example, invented. Enter your own; an empty field goes back to the example.
			</p>
			<div class="max-w-60"><Field label="Word for money" bind:value={draft.currency} /></div>
			<Accordion.Root type="multiple" value={['']} class="grid gap-2">
				{#each groups as group (group.key)}
					<Accordion.Item value={group.key} class="plate py-1">
						<Accordion.Header>
							<Accordion.Trigger
								class="flex min-h-12 w-full items-center justify-between gap-3 text-left font-semibold"
								>{group.label}<span class="font-normal text-faded"
									>{group.figures.filter((row) => draft?.figures[row.key] != null).length} of {group.figures
										.length} your own</span
								></Accordion.Trigger
							>
						</Accordion.Header>
						<Accordion.Content class="grid gap-3 pb-3 sm:grid-cols-2 wide:grid-cols-3">
							{#each group.figures as row (row.key)}
								<Figure
									label={shortly(row, group.label)}
									bind:value={
										() => draft?.figures[row.key] ?? null,
										(value) => draft && (draft.figures[row.key] = value)
									}
									unit={fixed(coin(row), 2)}
									least={0}
									most={row.unit === 'share' ? 1 : undefined}
									placeholder="example {row.value}"
								/>
							{/each}
						</Accordion.Content>
					</Accordion.Item>
				{/each}
			</Accordion.Root>
		</section>
		<div class="sticky bottom-0 grid gap-2 border-t border-groove bg-steel py-3">
			{#if wrong}<Notice level="stop"
					>{wrong}
					{#if code === 'changed_meanwhile'}<Button look="quiet" onclick={() => load(false)}
							>Let mine go and look at them as they are</Button
						>{/if}</Notice
				>{/if}
			{#if saved === 'sent' && !changed}<Notice
					>Saved. Open cases are judged by it from now on; accepted verdicts stay.</Notice
				>{/if}
			<Waits entries={outbox.writes('/api/policy')} what="What you saved"
				>The workshop’s ways change when the server is back.</Waits
			>
			<div class="flex flex-wrap gap-3">
				<MayNot need="rule"
					><Button type="submit" look="main" disabled={!changed}>Save the workshop’s ways</Button></MayNot
				>
				{#if changed}<Button look="quiet" onclick={() => policy && take(policy)}>Undo what was typed</Button
					>{/if}
			</div>
		</div>
	</form>
{:else if wrong}
	<Notice level="stop">{wrong}</Notice>
{/if}
