<script lang="ts">
	import { inUnits } from '$lib/shown.svelte';
	import type { Snippet } from 'svelte';
	import { wordsOf } from '$lib/api/client';
	import Button from './Button.svelte';
	import Notice from './Notice.svelte';

	interface Props {
		title: string;
		verb: string;
		fields: Snippet;
		answer: Snippet;
		/** Asks the server; what it throws is shown in words. */
		work: () => Promise<void>;
	}
	let { title, verb, fields, answer, work }: Props = $props();
	let wrong = $state('');

	async function submit(event: SubmitEvent) {
		event.preventDefault();
		wrong = '';
		try {
			await work();
		} catch (error) {
			wrong = inUnits(wordsOf(error));
		}
	}
</script>

<details>
	<summary class="flex min-h-12 cursor-pointer items-center font-semibold">{title}</summary>
	<form class="grid gap-3" onsubmit={submit}>
		{@render fields()}
		<Button type="submit">{verb}</Button>
		{#if wrong}<Notice level="stop">{wrong}</Notice>{:else}{@render answer()}{/if}
	</form>
</details>
