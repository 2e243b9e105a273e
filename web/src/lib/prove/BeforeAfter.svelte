<script lang="ts">
	import type { Schemas } from '$lib/api/client';
	import { bindKeys } from '$lib/keys.svelte';
	import OrderPlot from '$lib/sound/OrderPlot.svelte';
	import WavePlayer from '$lib/sound/WavePlayer.svelte';
	import Button from '$lib/ui/Button.svelte';

	interface Props {
		/** The recording from before the job, and the one after it, of the same place. */
		before: Schemas['RecordingOut'];
		after: Schemas['RecordingOut'];
		/** Whether their levels may be compared: else each is heard as it is. */
		alike: boolean;
	}
	let { before, after, alike }: Props = $props();
	let first = $state(false);
	const shown = $derived(first ? before : after);
	const levels = $derived([before, after].flatMap((row) => (row.level_db === null ? [] : [row.level_db])));
	$effect(() =>
		bindKeys([{ key: 'x', label: 'Before or after, at the same moment', run: () => (first = !first) }])
	);
</script>

<section class="grid gap-3" aria-label="Hear before and after">
	<div class="flex flex-wrap items-center gap-2" role="group" aria-label="Which is heard">
		<Button look={first ? 'main' : 'plain'} onclick={() => (first = true)}>Before</Button>
		<Button look={first ? 'plain' : 'main'} onclick={() => (first = false)}>After</Button>
		<span class="text-faded"
			>Now: {first ? 'before' : 'after'}. Switching (<kbd class="font-mono">x</kbd>) keeps the moment{alike
				? ' and matches the loudness, so that the ear compares the sound'
				: ''}.</span
		>
	</div>
	<WavePlayer
		recording={shown}
		quietest={alike && levels.length ? Math.min(...levels) : (shown.level_db ?? 0)}
	/>
	<OrderPlot recording={before} others={[after]} names={['before', 'after']} />
</section>
