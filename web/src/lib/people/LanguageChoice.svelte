<script lang="ts">
	import { wordsOf } from '$lib/api/client';
	import { NAMES } from '$lib/language';
	import { session } from '$lib/session.svelte';
	import Choice from '$lib/ui/Choice.svelte';
	import Notice from '$lib/ui/Notice.svelte';

	interface Props {
		label: string;
		value: string;
		/** What it is where none is chosen. */
		unchosen: string;
		choose: (language: string) => Promise<void>;
	}
	let { label, value, unchosen, choose }: Props = $props();
	/** A key of its own, as no choice is one too. */
	const NONE = 'none';
	let wrong = $state('');
	const options = $derived([
		{ key: NONE, words: unchosen },
		...session.languages.map((one) => ({ key: one as string, words: NAMES[one] }))
	]);
	const chosen = (key: string) =>
		void choose(key === NONE ? '' : key).catch((error: unknown) => (wrong = wordsOf(error)));
</script>

{#if session.languages.length > 1}
	<section class="plate grid content-start gap-3 self-start" aria-label={label}>
		<h2>{label}</h2>
		<Choice {label} {options} value={value || NONE} onchange={chosen} row />
		{#if wrong}<Notice level="stop">{wrong}</Notice>{/if}
	</section>
{/if}
