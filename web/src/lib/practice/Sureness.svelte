<script lang="ts">
	import type { Schemas } from '$lib/api/client';
	import { hundredths } from '$lib/numbers';
	import Choice from '$lib/ui/Choice.svelte';
	import { SURE_KEYS } from './keys';

	/** How sure somebody is, in steps from a guess among all to as good as certain. */
	let { steps, value = $bindable() }: { steps: Schemas['SureOut'][]; value: string } = $props();
</script>

<Choice
	label="How sure are you?"
	options={steps.map((step, n) => ({
		key: String(step.percent),
		words: hundredths(step.percent / 100),
		hint: step.words,
		hotkey: SURE_KEYS[n]
	}))}
	bind:value
	pairs
/>
