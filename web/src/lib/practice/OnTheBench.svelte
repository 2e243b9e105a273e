<script lang="ts">
	import { Hand } from '@lucide/svelte';
	import { wordsOf } from '$lib/api/client';
	import { useCase } from '$lib/case/case.svelte';
	import { bindKeys } from '$lib/keys.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Notice from '$lib/ui/Notice.svelte';

	/** Does on a practice vehicle what a hand would do on a real one, and logs what is found. */
	let { label, run }: { label: string; run: () => Promise<void> } = $props();
	const held = useCase();
	let busy = $state(false);
	let wrong = $state('');

	async function go() {
		if (busy || held.closed) return;
		busy = true;
		wrong = '';
		try {
			await run();
		} catch (error) {
			wrong = wordsOf(error);
		} finally {
			busy = false;
		}
	}
	$effect(() => bindKeys([{ key: '.', label, run: () => void go() }]));
</script>

<Button look="main" hotkey="." onclick={go} disabled={busy || held.closed}
	><Hand aria-hidden="true" />{label}</Button
>
{#if wrong}<Notice level="warn">{wrong}</Notice>{/if}
