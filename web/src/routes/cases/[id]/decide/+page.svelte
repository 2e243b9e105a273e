<script lang="ts">
	import { counted } from '$lib/numbers';
	import { goto } from '$app/navigation';
	import { FileText } from '@lucide/svelte';
	import { wordsOf, api, ask, type Schemas } from '$lib/api/client';
	import { testHref } from '$lib/case/answers';
	import HubChooser from '$lib/case/HubChooser.svelte';
	import HubName from '$lib/case/HubName.svelte';
	import { useCase } from '$lib/case/case.svelte';
	import { chosenHub } from '$lib/case/hub.svelte';
	import { Deciding } from '$lib/decide/deciding.svelte';
	import ChoicePlate from '$lib/decide/ChoicePlate.svelte';
	import PriceTable from '$lib/decide/PriceTable.svelte';
	import RoadPlate from '$lib/decide/RoadPlate.svelte';
	import Ways from '$lib/decide/Ways.svelte';
	import WhyNot from '$lib/decide/WhyNot.svelte';
	import { bindKeys } from '$lib/keys.svelte';
	import { session } from '$lib/session.svelte';
	import { moment } from '$lib/dates';
	import { percent } from '$lib/shown.svelte';
	import Waits from '$lib/outbox/Waits.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Field from '$lib/ui/Field.svelte';
	import MayNot from '$lib/people/MayNot.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Pick from '$lib/ui/Pick.svelte';
	import Tick from '$lib/ui/Tick.svelte';
	import { submits } from '$lib/ui/submits';

	const held = useCase();
	const hub = $derived(chosenHub(held, held.assessment?.decision.hub));
	const judged = $derived(held.assessment?.hubs[hub]);
	/** What a hand can carry out at this hub: nothing is adjusted at a sealed unit. */
	const possible = $derived(held.hubs.find((row) => row.id === hub)?.choices ?? []);
	const choices = $derived((session.reference?.choices ?? []).filter((row) => possible.includes(row.key)));
	/** What this person chose at each hub, and why: theirs until it is accepted, whatever comes in meanwhile. */
	const mine = new Deciding(held.id);
	const own = $derived(mine.at(hub));
	const choice = $derived(own.choice || (judged?.choice ?? ''));
	const against = $derived(Boolean(judged && choice !== judged.choice));
	let deciding = $state.raw<Schemas['DecidingOut'] | null>(null);
	/** Repacking and replacing are done on both sides of an axle where that is the way, or wished for here. */
	const mate = $derived(held.hubs.find((row) => row.id === hub)?.mate ?? '');
	const paired = $derived(Boolean(mate) && (session.reference?.in_pairs ?? []).includes(choice));
	const school = $derived(deciding?.schools.find((row) => row.key === 'sides')?.chosen);
	const both = $derived(paired && (own.both ?? school === 'both'));
	let busy = $state(false);
	let wrong = $state('');
	/** What is done in pairs is not accepted before it is known, and shown, whether the other side goes with it. */
	const unsaid = $derived(paired && own.both === undefined && !deciding && !wrong);
	let asked = 0;
	const waits = $derived(
		held.waiting('verdicts').filter((entry) => (entry.body as { hub?: string }).hub === hub)
	);
	const before = $derived(held.verdicts.filter((row) => row.hub === hub));
	const accepted = $derived(before.at(-1));
	const settleHref = $derived(
		judged?.settle ? testHref(held.id, judged.settle.test, judged.settle.hub) : undefined
	);
	const notes = $derived(
		Object.fromEntries(
			Object.entries(held.assessment?.hubs ?? {}).map(([id, row]) => [
				id,
				row.standing === 'quiet' || row.standing === 'unheard'
					? row.standing_label
					: `${percent(row.probability)} ${row.standing_label}`
			])
		)
	);

	$effect(() => {
		if (held.assessment && hub) void load(hub);
	});
	$effect(() =>
		settleHref
			? bindKeys([{ key: 'n', label: 'The test that would settle it', run: () => void goto(settleHref) }])
			: undefined
	);

	async function load(at: string) {
		const mine = ++asked;
		try {
			const params = { path: { case_id: held.id }, query: { hub: at } };
			// Verdicts as well: what has changed since the last one is only known now.
			const [found, verdicts] = await Promise.all([
				ask(api.GET('/api/cases/{case_id}/deciding', { params })),
				ask(api.GET('/api/cases/{case_id}/verdicts', { params: { path: params.path } }))
			]);
			if (mine !== asked) return;
			deciding = found;
			held.verdicts = verdicts;
		} catch (error) {
			if (mine === asked) wrong = wordsOf(error);
		}
	}

	async function accept() {
		if (busy) return;
		wrong = '';
		busy = true;
		try {
			const id = mine.number(hub);
			const body = { id, hub, choice, seen: judged?.choice ?? '', reason: against ? own.reason : '', both };
			const became = await held.write('verdicts', body, `What is decided at ${hub}`);
			mine.done(hub);
			if (became === 'sent') await goto(`/verdicts/${id}`);
		} catch (error) {
			wrong = wordsOf(error);
		} finally {
			busy = false;
		}
	}
</script>

{#if judged}
	{#if !held.closed && !waits.length && !accepted && !own.choice && !session.mayNot('decide')}
		<!-- On a phone the advice is taken where the thumb is; whoever decides otherwise finds the form below. -->
		<div
			class="fixed inset-x-0 bottom-12 z-20 border-t border-groove bg-steel px-3 py-2 wide:hidden print:hidden"
		>
			<Button look="main" class="w-full" onclick={() => void accept()} disabled={busy || unsaid}
				>Accept: {choices.find((row) => row.key === choice)?.words ?? ''}{both
					? `, ${hub} and ${mate}`
					: ''}</Button
			>
			{#if wrong}<Notice level="stop">{wrong}</Notice>{/if}
		</div>
	{/if}
	<div class="grid gap-6 max-wide:pb-16 wide:grid-cols-2">
		<section class="grid content-start gap-4">
			<ChoicePlate {hub} {judged} {settleHref} />
			{#if held.assessment}<RoadPlate road={held.assessment.road} />{/if}
			<WhyNot others={judged.alternatives} />
			<p>
				<a
					class="flex min-h-12 items-center underline underline-offset-4"
					href="/cases/{held.id}/why?hub={hub}">Why {hub}: the witnesses, for and against</a
				>
			</p>
		</section>
		<section class="grid content-start gap-4">
			{#if accepted}
				<Notice level={accepted.news ? 'warn' : 'note'}>
					Decided by {accepted.person}, {moment(accepted.at)}: {accepted.choice_label}{accepted.reason
						? ` (against the advice: ${accepted.reason})`
						: ''}. {accepted.news
						? `${counted(accepted.news, ['One entry has', '# entries have'])} changed since: look again, and decide anew.`
						: 'Nothing has changed since.'}
					<Button look="quiet" href="/verdicts/{accepted.id}"
						><FileText aria-hidden="true" />Read that verdict{before.length > 1
							? `, the last of ${before.length}`
							: ''}</Button
					>
				</Notice>
			{/if}
			<Waits entries={waits} what="What is decided here"
				>It is frozen when the server has it, if the advice is still what it was.</Waits
			>
			{#if !waits.length && !held.closed}
				<MayNot need="decide">
					<form class="plate grid gap-3 border-l-blued" onsubmit={submits(accept)}>
						<h2>Decide <HubName {hub} /></h2>
						<Pick
							label="What to do"
							options={choices.map((row) => ({ key: row.key, words: row.words }))}
							bind:value={() => choice, (key) => mine.set(hub, { choice: key })}
						/>
						{#if against}
							<Field
								label="Why differently from the advice"
								bind:value={() => own.reason, (reason) => mine.set(hub, { reason })}
							/>
						{/if}
						{#if paired}
							<Tick
								label="Both sides of the axle: {mate} as well, in one plan"
								bind:checked={() => both, (on) => mine.set(hub, { both: on })}
							/>
						{/if}
						{#if wrong}<Notice level="stop">{wrong}</Notice>{/if}
						<Button type="submit" look="main" disabled={!choice || busy || unsaid}
							>{accepted ? 'Decide anew' : 'Accept'}{both ? `, ${hub} and ${mate}` : ''}</Button
						>
						<p class="text-faded">
							The verdict is frozen with all that it rests on. {session.reference?.wording.nothing_above}
						</p>
					</form>
				</MayNot>
			{/if}
			<HubChooser selected={hub} {notes} />
			{#if deciding}
				<PriceTable prices={deciding.prices} certain={judged.choice_probability} />
				<Ways {deciding} onchange={() => held.refresh()} />
			{/if}
		</section>
	</div>
{/if}
