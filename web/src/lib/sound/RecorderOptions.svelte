<script lang="ts" module>
	/** How this device records; of this visit only, unlike how a recording is made. */
	export interface Options {
		countIn: boolean;
		stopDecided: boolean;
		device: string;
		condition: string;
	}
</script>

<script lang="ts">
	import { useCase } from '$lib/case/case.svelte';
	import { session } from '$lib/session.svelte';
	import Pick from '$lib/ui/Pick.svelte';
	import Tick from '$lib/ui/Tick.svelte';
	import type { Made } from './made.svelte';
	import { inputDevices } from './microphone';

	/** `opened`: how often a microphone was opened: only then do browsers name the inputs. */
	let { made, options = $bindable(), opened }: { made: Made; options: Options; opened: number } = $props();
	const held = useCase();
	let devices = $state.raw<{ key: string; words: string }[]>([]);
	const conditions = $derived([
		{ key: '', words: held.detail?.simulated ? 'What this demo case hides' : 'a sound bearing' },
		...(session.reference?.conditions ?? []).filter((row) => row.key !== 'sound')
	]);

	$effect(() => {
		void opened;
		void inputDevices().then(
			(found) =>
				(devices = found.map((input, n) => ({ key: input.deviceId, words: input.label || `Input ${n + 1}` })))
		);
	});
</script>

{#if made.source === 'microphone'}
	<div class="grid gap-x-4 sm:grid-cols-2">
		<Tick label="Count me in: three seconds" bind:checked={options.countIn} />
		{#if made.way?.situation !== 'road'}<Tick
				label="Stop when it is decided: ten thousand to one"
				bind:checked={options.stopDecided}
			/>{/if}
	</div>
	{#if devices.length > 1}<Pick label="Input" options={devices} bind:value={options.device} />{/if}
{:else if made.source === 'simulated' && !held.detail?.practice}
	<Pick label="The simulated pickup plays" options={conditions} bind:value={options.condition} />
{/if}
