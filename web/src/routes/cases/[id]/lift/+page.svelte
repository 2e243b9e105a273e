<script lang="ts">
	import { goto } from '$app/navigation';
	import { useCase } from '$lib/case/case.svelte';
	import { bindKeys } from '$lib/keys.svelte';
	import { session } from '$lib/session.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Tick from '$lib/ui/Tick.svelte';

	const held = useCase();
	const steps = $derived(session.reference?.made_safe ?? []);
	const done = $derived(held.standing('', 'made_safe'));
	let ticked = $state<Record<string, boolean>>({});
	const all = $derived(steps.every((step) => ticked[step]));

	async function log() {
		if (!all) return;
		await held.observe('', 'made_safe', { steps }, 'Lifted and made safe');
		await goto(`/cases/${held.id}/rock`);
	}
	$effect(() => bindKeys([{ key: 'n', label: 'Log it and go on', run: () => void log() }]));
</script>

<div class="grid max-w-2xl gap-4">
	<h1>Lift and make safe</h1>
	<Notice level="warn"
		>A small jack pad alone is not a support. Stand or block before any pushing or pulling.</Notice
	>
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
