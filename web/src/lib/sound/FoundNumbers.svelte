<script lang="ts">
	import { decimal } from '$lib/numbers';
	import type { Schemas } from '$lib/api/client';

	/** The numbers under the words: one tap below them. */
	let { recording }: { recording: Schemas['RecordingOut'] } = $props();
	const looks = (share: number) =>
		share < 1e-6
			? 'less than 1 in a million'
			: share > 0.5
				? 'as good as always'
				: `1 in ${Math.round(1 / share)}`;
</script>

{#if recording.families.length || recording.road.length}
	<details>
		<summary class="flex min-h-12 cursor-pointer items-center">The numbers</summary>
		<div class="overflow-x-auto">
			<table class="w-full text-left">
				<thead
					><tr class="text-faded"
						><th class="pr-4 font-normal">What</th><th class="pr-4 font-normal">Events a turn</th>
						<th class="pr-4 font-normal">Height, dB</th><th class="font-normal">By chance, at most</th></tr
					></thead
				>
				<tbody>
					{#each recording.families as family, n (n)}
						<tr
							><td class="pr-4">{family.words.split(/[,;]/)[0]}{family.row ? ` (${family.row})` : ''}</td>
							<td class="pr-4 font-mono">{decimal(family.found_order, 2)}</td>
							<td class="pr-4 font-mono">{decimal(family.score_db, 1)}</td>
							<td class="font-mono">{looks(family.by_chance)}</td></tr
						>
					{/each}
				</tbody>
			</table>
		</div>
		{#each recording.road as test, n (n)}
			<p>{test.words} Give or take {decimal(test.doubt_db, 1)} dB.</p>
		{/each}
	</details>
{/if}
