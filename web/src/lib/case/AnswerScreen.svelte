<script lang="ts">
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import type { Schemas } from '$lib/api/client';
	import { bindKeys } from '$lib/keys.svelte';
	import { session } from '$lib/session.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Choice from '$lib/ui/Choice.svelte';
	import { useCase } from './case.svelte';
	import { hubAfter } from './hub.svelte';

	interface Props {
		/** The witness that is asked, as the API's table names it. */
		witness: string;
		hub: string;
		/** Fields to log beside the answer. */
		more?: Record<string, unknown>;
		hotkeys?: boolean;
	}
	let { witness, hub, more = {}, hotkeys = true }: Props = $props();
	const held = useCase();
	const table = $derived(session.reference?.witnesses.find((row) => row.key === witness));
	const logged = $derived(held.standing(hub, witness));
	let answer = $derived(String(logged?.value.answer ?? ''));

	const UNSURE = { key: 'unsure', words: 'could not tell' };
	const options = $derived<Schemas['OptionOut'][]>([...(table?.options ?? []), UNSURE]);

	async function log(value: string) {
		const words = options.find((option) => option.key === value)?.words ?? value;
		await held.observe(hub, witness, { ...more, answer: value }, `${hub}: ${words}`);
	}
	const next = () => void goto(`${page.url.pathname}?hub=${hubAfter(held, hub)}`, { keepFocus: true });
	$effect(() => (hotkeys ? bindKeys([{ key: 'n', label: 'Next hub', run: next }]) : undefined));
</script>

{#if table}
	<section class="grid gap-3" aria-label={table.label}>
		<h2>{table.label}</h2>
		<p class="text-faded">{table.why}</p>
		<Choice label="{table.label} at {hub}" {options} bind:value={answer} onchange={log} />
		<div class="flex flex-wrap items-center gap-3">
			{#if hotkeys}<Button onclick={next} hotkey="n">Next hub</Button>{/if}
			{#if logged}<span class="text-faded">Logged by {logged.person}. Choose again to correct it.</span>{/if}
		</div>
	</section>
{/if}
