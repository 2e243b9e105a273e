<script lang="ts">
	import { Check, Circle, Hourglass } from '@lucide/svelte';
	import type { Schemas } from '$lib/api/client';
	import { clock, minutes } from './means';

	interface Props {
		steps: Schemas['StepOut'][];
		chosen: string;
		opens_h: number;
		onchoose: (id: string) => void;
	}
	let { steps, chosen, opens_h, onchoose }: Props = $props();
	/** Who ticked it last. */
	const by = (step: Schemas['StepOut']) => step.entries.filter((row) => row.kind === 'done').at(-1)?.person;
</script>

<ol class="grid gap-1" aria-label="Every step">
	{#each steps as step, n (step.id)}
		{@const here = step.id === chosen}
		<li>
			<button
				type="button"
				aria-current={here ? 'step' : undefined}
				onclick={() => onchoose(step.id)}
				class="flex min-h-12 w-full items-start gap-3 rounded-sm border px-3 py-2 text-left leading-tight {here
					? 'border-2 border-blued bg-plate'
					: 'border-groove'}"
			>
				<span class="w-7 shrink-0 font-mono text-faded">{n + 1}</span>
				{#if step.done}<Check class="size-5 shrink-0" aria-hidden="true" />
				{:else}<Circle class="size-5 shrink-0 text-faded" aria-hidden="true" />{/if}
				<span class="grow {step.done ? 'text-faded' : ''}">
					{#if step.hub}<span class="font-mono">{step.hub}</span>{/if}
					{step.do}<span class="sr-only">{step.done ? ', done' : ', not done'}</span>
					{#if step.done && by(step)}<span class="block text-faded">done by {by(step)}</span>{/if}
					{#if !step.done && step.wait > 0}<span class="flex items-center gap-1 text-ochre"
							><Hourglass class="size-4" aria-hidden="true" />then {minutes(step.wait)} of {step.wait_for}</span
						>{/if}
					{#if step.entries.some((row) => row.note || row.value !== null)}<span class="block text-ochre"
							>{step.entries
								.filter((row) => row.note)
								.map((row) => row.note)
								.join(' · ') || 'a figure'}</span
						>{/if}
				</span>
				{#if step.start !== null && !step.done}<span class="shrink-0 font-mono text-faded"
						>{clock(step.start, opens_h)}</span
					>{/if}
			</button>
		</li>
	{/each}
</ol>
