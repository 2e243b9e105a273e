<script lang="ts">
	import { bindKeys } from '$lib/keys.svelte';
	import { session } from '$lib/session.svelte';
	import Button from '$lib/ui/Button.svelte';
	import type { Capturing } from './capture.svelte';
	import type { Made } from './made.svelte';
	import type { State, Surface } from './marks';

	/** What is marked while a recording runs: what the vehicle does, what the road is like, each turn of the wheel. */
	let { capturing, made }: { capturing: Capturing; made: Made } = $props();
	const ARROWS: Record<string, string> = { ArrowUp: '↑', ArrowDown: '↓', ArrowLeft: '←', ArrowRight: '→' };
	const marks = $derived(made.way?.marks ?? []);
	const surfaces = $derived(marks.length ? (session.reference?.surfaces ?? []) : []);
	const taps = $derived(made.speedKind === 'marks');
	const onState = (key: string) => capturing.mark(key as State);
	const onSurface = (key: string) => capturing.mark(capturing.marked || 'straight', key as Surface);

	$effect(() =>
		bindKeys([
			...(taps ? [{ key: 't', label: 'The wheel has turned once', run: () => capturing.tap() }] : []),
			...marks.map((row) => ({ key: row.hotkey, label: `Mark: ${row.words}`, run: () => onState(row.key) })),
			...surfaces.map((row) => ({
				key: row.hotkey,
				label: `Mark: ${row.words}`,
				run: () => onSurface(row.key)
			}))
		])
	);
</script>

{#if marks.length}
	<div class="flex flex-wrap gap-2" role="group" aria-label="What the vehicle does now">
		{#each marks as row (row.key)}
			<Button
				look={capturing.marked === row.key ? 'main' : 'plain'}
				hotkey={ARROWS[row.hotkey] ?? row.hotkey}
				onclick={() => onState(row.key)}>{row.words}</Button
			>
		{/each}
	</div>
	<div class="flex flex-wrap gap-2" role="group" aria-label="What the road is like now">
		{#each surfaces as row (row.key)}
			<Button
				look={capturing.surface === row.key ? 'main' : 'plain'}
				hotkey={row.hotkey}
				onclick={() => onSurface(row.key)}>{row.words}</Button
			>
		{/each}
	</div>
{/if}
{#if taps}
	<Button hotkey="t" onclick={() => capturing.tap()}>One turn ({capturing.tapped})</Button>
{/if}
