<script lang="ts">
	import { tick } from 'svelte';
	import type { Schemas } from '$lib/api/client';
	import { inUnits } from '$lib/shown.svelte';

	/** Steps of a job, put in order one after another: the next is picked from what is left, and any may be taken back. */
	interface Props {
		steps: Schemas['AnswerableOut'][];
		order: string[];
	}
	let { steps, order = $bindable() }: Props = $props();
	const words = $derived(Object.fromEntries(steps.map((step) => [step.key, inUnits(step.words)])));
	const left = $derived(steps.filter((step) => !order.includes(step.key)));
	let picks: HTMLElement;
	/** Put a step next; who works by keyboard goes on at the first that is left. */
	function place(key: string, event: MouseEvent) {
		order = [...order, key];
		if (event.detail === 0) void tick().then(() => picks.querySelector('button')?.focus());
	}
	const ROW = 'flex min-h-12 w-full items-center gap-3 rounded-sm border px-3 py-2 text-left leading-tight';
</script>

<div class="grid content-start gap-6 wide:grid-cols-2">
	<section class="grid content-start gap-2" aria-label="What comes next?">
		<h2>{left.length ? 'What comes next?' : 'All have their place'}</h2>
		<ul class="grid gap-2" bind:this={picks}>
			{#each steps as step, n (step.key)}
				{#if !order.includes(step.key)}
					<li>
						<button class="{ROW} border-faded bg-plate" onclick={(event) => place(step.key, event)}>
							<kbd class="font-mono text-faded">{n + 1}</kbd><span>{words[step.key]}</span>
						</button>
					</li>
				{/if}
			{/each}
		</ul>
	</section>
	<section class="grid content-start gap-2" aria-label="Your order">
		<h2>Your order</h2>
		{#if order.length}
			<ol class="grid gap-2">
				{#each order as key, n (key)}
					<li>
						<button class="{ROW} border-blued" onclick={() => (order = order.filter((one) => one !== key))}>
							<b class="font-mono">{n + 1}</b><span
								>{words[key]} <span class="sr-only">Take it back</span></span
							>
						</button>
					</li>
				{/each}
			</ol>
			<p class="text-faded">Touch one to take it back; Backspace takes back the last.</p>
		{:else}
			<p class="text-faded">Touch the step that is done first, then the one after it.</p>
		{/if}
	</section>
</div>
