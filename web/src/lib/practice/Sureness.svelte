<script lang="ts">
	import { hundredths } from '$lib/numbers';
	import Choice from '$lib/ui/Choice.svelte';

	/** How sure somebody is, in steps from a guess among all to as good as certain. */
	let {
		steps,
		value = $bindable(),
		disabled = false
	}: { steps: number[]; value: string; disabled?: boolean } = $props();
	const KEYS = 'asdfgh';
	const words = $derived([
		'a guess',
		'as likely as not',
		'I lean to it',
		'I think so',
		'I am fairly sure',
		'I would stake the wheel on it'
	]);
</script>

<Choice
	label="How sure are you?"
	options={steps.map((step, n) => ({
		key: String(step),
		words: hundredths(step / 100),
		hint: words[n],
		hotkey: KEYS[n]
	}))}
	bind:value
	pairs
	{disabled}
/>
