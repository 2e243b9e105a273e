<script lang="ts">
	import type { Schemas } from '$lib/api/client';
	import { money } from '$lib/decide/money';
	import Button from '$lib/ui/Button.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import { minutes } from './means';

	interface Props {
		step: Schemas['StepOut'];
		currency: string;
		/** Takes a rung, or nothing when it came loose. */
		ontried: (rung?: Schemas['RungOut']) => void;
	}
	let { step, currency, ontried }: Props = $props();
	const tried = $derived(step.ladder.findIndex((rung) => rung.key === step.rung));
</script>

<section class="plate grid gap-3 border-l-ochre" aria-label="It will not move">
	<h2>{step.part_label} will not move</h2>
	<p class="text-faded">
		{step.held_by ? `Held by ${step.held_by}. ` : ''}In rising order. What is to be used again is never struck
		with steel.
	</p>
	{#if step.rung}
		<div>
			<Button onclick={() => ontried()}>It came loose: take the rung out again</Button>
		</div>
	{/if}
	<ol class="grid gap-3">
		{#each step.ladder as rung, n (rung.key)}
			<li
				class="grid gap-1 border-t border-groove pt-2 {rung.key === step.rung
					? 'border-l-4 border-l-blued pl-3'
					: ''}"
			>
				<p class="flex flex-wrap items-baseline gap-x-3">
					<span class="font-semibold">{n + 1}. {rung.label}</span>
					<span class="text-faded"
						>{minutes(rung.minutes)}{rung.wait ? `, then ${minutes(rung.wait)} of waiting` : ''}, about {money(
							rung.money,
							currency
						)}{rung.example ? ', by example prices' : ''}</span
					>
				</p>
				<p>{rung.do}</p>
				{#if rung.ruins.length}<p>
						<span class="font-semibold">Ruins:</span>
						{rung.ruins.join(', ')}: bought new.
					</p>{/if}
				<p><span class="font-semibold">Stop:</span> {rung.stop}</p>
				{#each rung.cautions as caution (caution)}<Notice level="warn">{caution}</Notice>{/each}
				{#if n > tried}<div>
						<Button onclick={() => ontried(rung)}>Try this</Button>
					</div>{:else if n === tried}<p class="text-faded">Tried now: it is a step before this one.</p>{/if}
			</li>
		{/each}
	</ol>
</section>
