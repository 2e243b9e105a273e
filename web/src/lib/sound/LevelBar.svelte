<script lang="ts">
	import { session } from '$lib/session.svelte';

	/** Live level in dB of full scale, with a word beside the bar. */
	let { peak }: { peak: number } = $props();
	const FLOOR_DB = -60;
	const db = $derived(Math.max(FLOOR_DB, 20 * Math.log10(peak + 1e-6)));
	const levels = $derived(session.reference?.levels);
	const word = $derived(
		peak >= (levels?.too_loud ?? 1) ? 'Too loud' : peak < (levels?.nothing ?? 0) ? 'Almost nothing' : 'Good'
	);
</script>

<div class="flex items-center gap-3">
	<div class="h-5 grow overflow-hidden rounded-xs bg-groove">
		<div
			class="h-full {word === 'Good' ? 'bg-blued' : 'bg-oxide'}"
			style:width="{((db - FLOOR_DB) / -FLOOR_DB) * 100}%"
		></div>
	</div>
	<span class="w-32">{word}</span>
</div>
