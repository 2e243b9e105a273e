<script lang="ts">
	import { goto } from '$app/navigation';
	import { useCase } from '$lib/case/case.svelte';
	import { bindKeys } from '$lib/keys.svelte';
	import { session } from '$lib/session.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Choice from '$lib/ui/Choice.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Tick from '$lib/ui/Tick.svelte';

	const held = useCase();
	const lifts = $derived(session.reference?.lifts ?? []);
	/** Before anything is decided it is lifted to test, then to work: the person may say otherwise. */
	let said = $state('');
	const key = $derived(said || (held.verdicts.length ? 'work' : 'test'));
	const lift = $derived(lifts.find((row) => row.key === key) ?? lifts[0]);
	const steps = $derived(lift?.steps ?? []);
	const done = $derived(held.standing('', 'made_safe'));
	let ticked = $state<Record<string, boolean>>({});
	const all = $derived(steps.every((step) => ticked[step]));

	async function log() {
		if (!all) return;
		await held.observe('', 'made_safe', { steps, lift: key }, 'Lifted and made safe');
		await goto(`/cases/${held.id}/${key === 'work' ? 'do' : 'rock'}`);
	}
	$effect(() => bindKeys([{ key: 'n', label: 'Log it and go on', run: () => void log() }]));
</script>

<div class="grid max-w-2xl gap-4">
	<h1>Lift and make safe</h1>
	<Notice level="warn"
		>A small jack pad alone is not a support. Stand or block before any pushing or pulling.</Notice
	>
	<Choice
		label="What it is lifted for"
		options={lifts.map((row) => ({ key: row.key, words: row.label }))}
		bind:value={() => key, (chosen) => (said = chosen)}
		row
	/>
	{#if lift}<p>{lift.why}</p>{/if}
	<div class="plate grid gap-1">
		{#each steps as step (step)}
			<Tick label={step} bind:checked={() => ticked[step] ?? false, (on) => (ticked[step] = on)} />
		{/each}
	</div>
	<div class="flex flex-wrap items-center gap-3">
		<Button look="main" hotkey="n" disabled={!all || held.closed} onclick={log}>It stands safe</Button>
		{#if done}<span class="text-faded">Logged by {done.person}.</span>{/if}
	</div>
</div>
