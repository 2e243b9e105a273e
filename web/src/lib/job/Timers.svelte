<script lang="ts">
	import { BellRing, Hourglass } from '@lucide/svelte';
	import type { Schemas } from '$lib/api/client';
	import { remaining, ticking } from './means';

	/** What waits by itself: soaking, drying, warming, and the half hour before the wheel nuts are done again. It rings. */
	let { steps }: { steps: Schemas['StepOut'][] } = $props();
	let now = $state(Date.now());
	const doneAt = (step: Schemas['StepOut']) =>
		step.done ? step.entries.filter((row) => row.kind === 'done').at(-1)?.at : undefined;

	/** Waits that run: after a step that is done, as long as nothing that needs it is done. */
	const running = $derived.by(() => {
		const after = (id: string) => steps.some((other) => other.needs.includes(id) && other.done);
		const own = steps
			.filter((step) => step.wait > 0 && doneAt(step) && !after(step.id))
			.map((step) => ({
				id: step.id,
				hub: step.hub,
				words: step.wait_for,
				from: doneAt(step) ?? '',
				wait: step.wait
			}));
		const later = steps
			.filter((step) => step.wait_before > 0 && !step.done)
			.flatMap((step) => {
				const since = steps.filter((other) => step.wait_since.includes(other.id));
				const last = since.map(doneAt).sort().at(-1);
				return since.length && since.every(doneAt) && last
					? [{ id: step.id, hub: '', words: step.wait_for, from: last, wait: step.wait_before }]
					: [];
			});
		return [...own, ...later].map((row) => ({ ...row, left: remaining(row.from, row.wait, now) }));
	});
	const rung: Record<string, boolean> = {};

	$effect(() => {
		const timer = setInterval(() => (now = Date.now()), 1000);
		return () => clearInterval(timer);
	});
	$effect(() => {
		for (const row of running) {
			if (row.left > 0) rung[row.id] = true;
			else if (rung[row.id]) {
				rung[row.id] = false;
				ring();
			}
		}
	});

	/** Two short tones and a shake: a phone in a pocket is felt, one on the bench is heard. */
	function ring() {
		navigator.vibrate?.([300, 150, 300]);
		try {
			const sound = new AudioContext();
			for (const at of [0, 0.35]) {
				const tone = new OscillatorNode(sound, { frequency: 880 });
				tone.connect(new GainNode(sound, { gain: 0.2 })).connect(sound.destination);
				tone.start(sound.currentTime + at);
				tone.stop(sound.currentTime + at + 0.25);
			}
			setTimeout(() => void sound.close(), 1500);
		} catch {
			// No sound here: the words below say it.
		}
	}
</script>

{#if running.length}
	<ul class="grid gap-2" aria-label="What waits by itself">
		{#each running as row (row.id)}
			<li
				class="plate flex items-center gap-3 {row.left ? '' : 'border-l-ochre bg-ochre-wash'}"
				role={row.left ? undefined : 'status'}
			>
				{#if row.left}<Hourglass class="shrink-0" aria-hidden="true" />{:else}<BellRing
						class="shrink-0"
						aria-hidden="true"
					/>{/if}
				<span class="grow"
					>{#if row.hub}<span class="font-mono">{row.hub}</span>{/if}
					{row.words}{row.left ? '' : ': time is up'}</span
				>
				<span class="font-mono text-2xl">{ticking(row.left)}</span>
			</li>
		{/each}
	</ul>
{/if}
