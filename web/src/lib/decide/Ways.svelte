<script lang="ts">
	import { wordsOf, type Schemas } from '$lib/api/client';
	import { useCase } from '$lib/case/case.svelte';
	import Waits from '$lib/outbox/Waits.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Choice from '$lib/ui/Choice.svelte';
	import Field from '$lib/ui/Field.svelte';
	import { session } from '$lib/session.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Pick from '$lib/ui/Pick.svelte';
	import { submits } from '$lib/ui/submits';

	interface Props {
		deciding: Schemas['DecidingOut'];
		/** Called when this case goes another way, or back. */
		onchange: () => Promise<void>;
	}
	let { deciding, onchange }: Props = $props();
	const held = useCase();
	let school = $state('');
	let option = $state('');
	let reason = $state('');
	let wrong = $state('');
	const own = $derived(Object.fromEntries(deciding.departures.map((row) => [row.school, row] as const)));
	const chosen = $derived(deciding.schools.find((row) => row.key === school));
	const label = (row: Schemas['SchoolOut']) =>
		row.options.find((one) => one.key === row.chosen)?.label ?? row.chosen;

	async function depart(to: string, why: string, from = school) {
		wrong = '';
		try {
			const body = { id: crypto.randomUUID(), school: from, option: to, reason: why };
			await held.write('departures', body, 'Another way in this case');
			school = option = reason = '';
			await onchange();
		} catch (error) {
			wrong = wordsOf(error);
		}
	}
</script>

<details>
	<summary class="min-h-12 cursor-pointer py-2 text-lg font-semibold"
		>The workshop’s ways in this case{deciding.departures.length
			? ` (${deciding.departures.length} otherwise)`
			: ''}</summary
	>
	<div class="grid gap-3 pt-2">
		<ul class="grid gap-1">
			{#each deciding.schools as row (row.key)}
				<li class="border-b border-groove pb-1">
					<span class="text-faded">{row.label}:</span>
					{label(row)}
					{#if own[row.key]}<span class="block"
							><b>In this case only:</b>
							{own[row.key]?.reason} ({own[row.key]?.person})
							{#if !held.closed}<Button
									look="quiet"
									onclick={() => depart('', 'back to the workshop’s way', row.key)}
									>Back to the workshop’s way</Button
								>{/if}</span
						>{/if}
				</li>
			{/each}
		</ul>
		<Waits entries={held.waiting('departures')} what="Another way"
			>The case goes it when the server is back.</Waits
		>
		{#if !held.closed && !session.mayNot('decide')}
			<form class="plate grid gap-3" onsubmit={submits(() => depart(option, reason))}>
				<h3 class="font-semibold">Go another way this once</h3>
				<Pick
					label="In what"
					options={deciding.schools.map((row) => ({ key: row.key, words: row.label }))}
					bind:value={school}
					onchange={() => (option = '')}
				/>
				{#if chosen}
					<Choice
						label={chosen.label}
						options={chosen.options.map((one) => ({
							key: one.key,
							words: one.label,
							hint: `Gains: ${one.gains} Costs: ${one.costs}`
						}))}
						bind:value={option}
					/>
					<Field label="Why" bind:value={reason} />
				{/if}
				{#if wrong}<Notice level="stop">{wrong}</Notice>{/if}
				<Button type="submit" disabled={!option}>Go this way in this case</Button>
			</form>
		{/if}
		<p>
			<a class="underline underline-offset-4" href="/policy">Change the workshop’s ways</a> for every case.
		</p>
	</div>
</details>
