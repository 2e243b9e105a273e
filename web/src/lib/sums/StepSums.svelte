<script lang="ts">
	import { Tabs } from 'bits-ui';
	import { untrack } from 'svelte';
	import { small } from '$lib/language';
	import { api, ask, wordsOf, type Schemas } from '$lib/api/client';
	import { useCase } from '$lib/case/case.svelte';
	import { session } from '$lib/session.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import GuidedSetting from './GuidedSetting.svelte';
	import Instrument from './Instrument.svelte';
	import { SumState } from './sum.svelte';

	/** The sums that belong to a step, each as its own instrument, filled with what is known at the hub. */
	interface Props {
		hub: string;
		step: string;
		/** Which sums, the first shown. */
		keys: string[];
	}
	let { hub, step, keys }: Props = $props();
	const held = useCase();
	let found = $state.raw<Schemas['HubSumsOut'] | null>(null);
	let wrong = $state('');
	let chosen = $state('');
	let turn = 0;
	const GUIDED = 'guided';

	const guided = $derived(keys.includes('nut') && Boolean(found?.moves.length));
	const shown = $derived([...(guided ? [GUIDED] : []), ...keys]);
	const now = $derived(shown.includes(chosen) ? chosen : (shown[0] ?? ''));
	/** Made once; what others keep meanwhile is filled in where nobody typed. */
	let states = $state.raw<Record<string, SumState>>({});
	const label = (key: string) =>
		key === GUIDED
			? 'Set it, move by move'
			: (session.reference?.sums.find((row) => row.key === key)?.label ?? key);

	$effect(() => {
		void [hub, step, held.changes]; // what anybody keeps is filled in from then on
		untrack(() => void load());
	});

	async function load() {
		const mine = ++turn;
		try {
			const params = { path: { case_id: held.id }, query: { hub, step } };
			const rows = await ask(api.GET('/api/cases/{case_id}/sums', { params }));
			if (mine !== turn) return;
			const made = Object.keys(states).length > 0;
			for (const row of made ? rows.sums : []) states[row.key]?.refill(row.values);
			if (!made) states = Object.fromEntries(rows.sums.flatMap((row) => stateOf(row)));
			found = rows;
			wrong = '';
		} catch (error) {
			if (mine === turn) wrong = wordsOf(error);
		}
	}

	function stateOf(row: Schemas['HubSumOut']): [string, SumState][] {
		const sum = session.reference?.sums.find((one) => one.key === row.key);
		return sum ? [[row.key, new SumState(sum, { case: held.id, hub }, row.values, session.person?.id)]] : [];
	}

	async function keep(state: SumState) {
		const body = state.kept(step);
		await held.writeLater('worked', body, `${hub}: ${small(state.sum.label)}`);
		state.done();
	}
	const last = (key: string) => found?.sums.find((row) => row.key === key)?.last;
</script>

{#if wrong}<Notice level="warn">{wrong}</Notice>{/if}
{#if found}
	<!-- Its column may be narrower than its tabs, which slide on a phone. -->
	<div class="plate grid grid-cols-[minmax(0,1fr)]">
		<Tabs.Root value={now} onValueChange={(key) => (chosen = key)}>
			{#if shown.length > 1}
				<Tabs.List class="flex gap-2 pb-3 max-sm:overflow-x-auto sm:flex-wrap" aria-label="Sums of this step">
					{#each shown as key (key)}
						<Tabs.Trigger
							value={key}
							class="min-h-12 shrink-0 rounded-sm border border-faded bg-plate px-3 data-[state=active]:bg-blued data-[state=active]:text-on-blued"
							>{label(key)}</Tabs.Trigger
						>
					{/each}
				</Tabs.List>
			{:else}<h2 class="pb-3">{label(now)}</h2>{/if}
			{#each shown as key (key)}
				<Tabs.Content value={key}>
					{#if key === now}
						{#if key === GUIDED}
							<GuidedSetting {hub} moves={found.moves} worn={found.worn} {states} onkeep={keep} />
						{:else if states[key]}
							{@const state = states[key]}
							<Instrument
								{state}
								last={last(key)}
								onkeep={held.closed ? undefined : () => void keep(state)}
							/>
						{/if}
					{/if}
				</Tabs.Content>
			{/each}
		</Tabs.Root>
	</div>
{/if}
