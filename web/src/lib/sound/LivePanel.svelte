<script lang="ts">
	import { decimal } from '$lib/numbers';
	import Notice from '$lib/ui/Notice.svelte';
	import type { LiveEar } from './live.svelte';

	let { ear }: { ear: LiveEar } = $props();
	const found = $derived(ear.found);
	const heardIn = $derived(found ? `${decimal(found.seconds)} s heard` : '');
</script>

<section class="grid gap-2" aria-label="Heard so far">
	{#if ear.silent}
		<Notice level="warn">{ear.silent}</Notice>
	{:else if found}
		<p class="text-lg leading-snug" role="status">{found.words}</p>
		<p class="text-faded">
			{heardIn}{found.turns_per_s ? `, ${decimal(found.turns_per_s, 1)} turns a second` : ''}
		</p>
		{#each found.families.slice(0, 3) as family, n (n)}
			<div class="grid gap-1">
				<p>{family.words}</p>
				<div
					class="h-2 rounded-xs bg-groove"
					role="meter"
					aria-label="How surely: {family.words}"
					aria-valuemin="0"
					aria-valuemax="100"
					aria-valuenow={Math.round(100 * family.surely)}
				>
					<div class="h-full rounded-xs bg-blued" style:width="{100 * family.surely}%"></div>
				</div>
			</div>
		{/each}
	{:else}
		<p class="text-faded" role="status">Listening …</p>
	{/if}
</section>
