<script lang="ts">
	import { goto } from '$app/navigation';
	import { wordsOf, api, ask } from '$lib/api/client';
	import HubChooser from '$lib/case/HubChooser.svelte';
	import { useCase } from '$lib/case/case.svelte';
	import { chosenHub } from '$lib/case/hub.svelte';
	import { session } from '$lib/session.svelte';
	import { moment } from '$lib/dates';
	import { percent } from '$lib/shown.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Field from '$lib/ui/Field.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Pick from '$lib/ui/Pick.svelte';
	import Witnesses from '$lib/case/Witnesses.svelte';

	const held = useCase();
	const hub = $derived(chosenHub(held));
	const judged = $derived(held.assessment?.hubs[hub]);
	const choices = $derived((session.reference?.choices ?? []).filter((row) => row.key !== 'undecided'));
	let choice = $derived(judged && judged.choice !== 'undecided' ? judged.choice : '');
	let reason = $state('');
	let wrong = $state('');
	const accepted = $derived(held.verdicts.filter((row) => row.hub === hub).at(-1));
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

	async function accept() {
		wrong = '';
		try {
			const params = { path: { case_id: held.id } };
			await ask(api.POST('/api/cases/{case_id}/verdicts', { params, body: { hub, choice, reason } }));
			await held.refresh();
			await goto(`/cases/${held.id}/do`);
		} catch (error) {
			wrong = wordsOf(error);
		}
	}
</script>

{#if judged}
	<div class="grid gap-6 wide:grid-cols-2">
		<section class="grid content-start gap-4">
			<div class="plate grid gap-3 {judged.standing === 'culprit' ? 'border-l-oxide' : ''}">
				<h1 class="text-3xl">
					<span class="font-mono">{hub}</span>: {judged.cause === 'sound'
						? judged.standing_label
						: judged.cause_label}
				</h1>
				{#if judged.cause !== 'sound'}
					<p class="flex items-baseline gap-3">
						<span class="figure">{percent(judged.probability)}</span> likely
					</p>
				{/if}
				<p class="text-xl font-semibold">{judged.choice_label}</p>
				<p>{judged.because}</p>
				<p><span class="text-faded">What would change it:</span> {judged.would_change}</p>
			</div>
			<HubChooser selected={hub} {notes} />
			{#if accepted}
				<Notice>
					Decided by {accepted.person}, {moment(accepted.at)}: {accepted.choice_label}{accepted.reason
						? ` (against the advice: ${accepted.reason})`
						: ''}. Deciding again makes a new verdict; this one stays.
				</Notice>
			{/if}
			{#if !held.closed}
				<form
					class="plate grid gap-3"
					onsubmit={(event) => {
						event.preventDefault();
						void accept();
					}}
				>
					<h2>Decide {hub}</h2>
					<Pick
						label="What to do"
						options={choices.map((row) => ({ key: row.key, words: row.words }))}
						bind:value={choice}
					/>
					{#if choice && choice !== judged.choice}
						<Field label="Why differently from the advice" bind:value={reason} />
					{/if}
					{#if wrong}<Notice level="stop">{wrong}</Notice>{/if}
					<Button type="submit" look="main" disabled={!choice}>Accept and go on</Button>
					<p class="text-faded">
						The maker’s manual, local law and a licensed mechanic come before anything on screen.
					</p>
				</form>
			{/if}
		</section>
		<Witnesses {hub} {judged} />
	</div>
{/if}
