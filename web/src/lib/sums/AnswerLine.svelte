<script lang="ts">
	import { small } from '$lib/language';
	import type { Schemas } from '$lib/api/client';
	import { inUnits } from '$lib/shown.svelte';
	import { LEVELS } from './levels';
	import SumPicture from './SumPicture.svelte';

	/** What a sum comes to, at arm's length: its drawing, its line with how it stands, and what to do. */
	interface Props {
		sum: Schemas['SumOut'];
		answer: Schemas['SumAnswerOut'];
	}
	let { sum, answer }: Props = $props();
	const level = $derived(LEVELS[answer.level]);
	const Icon = $derived(level?.icon);
	const wants = $derived(
		sum.fields.filter((row) => answer.missing.includes(row.key)).map((row) => small(row.label))
	);
</script>

<div class="grid gap-3 border-l-4 pl-3 {level?.edge}">
	<p role="status" class="grid gap-1">
		{#if Icon}<span class="flex items-center gap-2 font-semibold"
				><Icon aria-hidden="true" />{level?.word}</span
			>{/if}
		{#if answer.line}<span class="text-2xl leading-tight font-semibold">{inUnits(answer.line)}</span>{/if}
		{#if wants.length}<span class="text-faded">Still to be given: {wants.join(', ')}.</span>{/if}
	</p>
	<SumPicture sum={sum.key} picture={answer.picture} />
	{#each answer.says as words (words)}<p>{inUnits(words)}</p>{/each}
</div>
