<script lang="ts">
	import { unitLabel } from '$lib/shown.svelte';
	import Choice from '$lib/ui/Choice.svelte';
	import Field from '$lib/ui/Field.svelte';
	import Tick from '$lib/ui/Tick.svelte';
	import type { Made } from './made.svelte';

	let { made }: { made: Made } = $props();
	const sources = [
		{ key: 'microphone', words: 'Microphone or pickup' },
		{ key: 'file', words: 'A file' },
		{ key: 'simulated', words: 'Simulated pickup' }
	];
	const sensors = [
		{ key: 'clip', words: 'Clipped on the metal' },
		{ key: 'air', words: 'Held in the air' }
	];
	const situations = [
		{ key: 'stand_spin', words: 'On stands, spun by hand' },
		{ key: 'stand_driven', words: 'On stands, driven' },
		{ key: 'road', words: 'On the road' }
	];
	const speeds = $derived([
		{ key: 'wheel', words: 'Wheel turns a second' },
		{ key: 'road', words: `Road speed, ${unitLabel('speed')}` },
		{ key: 'counted', words: 'Turns counted' },
		{ key: 'unknown', words: 'Not known' }
	]);
	const unit = $derived(
		{ road: unitLabel('speed'), wheel: 'turns a second', counted: 'turns in all', unknown: '' }[
			made.speedKind
		]
	);
</script>

<section class="grid gap-4" aria-label="How it is made">
	<div>
		<p class="pb-1 text-faded">From</p>
		<Choice label="From" options={sources} bind:value={made.source} row />
	</div>
	<div>
		<p class="pb-1 text-faded">Speed: without it only loudness can be compared</p>
		<Choice label="Speed" options={speeds} bind:value={made.speedKind} row />
	</div>
	{#if made.speedKind !== 'unknown'}
		<Field
			label="How fast"
			bind:value={made.speed}
			{unit}
			numeric
			wrong={made.speed ? made.speedWrong : undefined}
		/>
	{/if}
	<div>
		<p class="pb-1 text-faded">Where the vehicle is</p>
		<Choice label="Where the vehicle is" options={situations} bind:value={made.situation} row />
	</div>
	<div>
		<p class="pb-1 text-faded">Pickup</p>
		<Choice label="Pickup" options={sensors} bind:value={made.sensor} row />
	</div>
	<Tick
		label="Same pickup and gain at every corner, so levels may be compared"
		bind:checked={made.sameGain}
	/>
</section>
