<script lang="ts">
	import { decimal } from '$lib/numbers';
	import type { Schemas } from '$lib/api/client';
	import { standingFamilies } from './families';
	import FoundNumbers from './FoundNumbers.svelte';
	import Notice from '$lib/ui/Notice.svelte';

	let { recording }: { recording: Schemas['RecordingOut'] } = $props();
	const leading = $derived(standingFamilies(recording).slice(0, 2));
	// two rows of one bearing may say the same
	const onTheRoad = $derived([
		...new Set(recording.road.filter((test) => test.surely).map((test) => test.words))
	]);
	const unsettled = $derived(!recording.turns_per_s && recording.speed_words);
	const loudness = $derived(
		recording.relative_db === null ? '' : `${decimal(recording.relative_db)} dB over the quietest corner.`
	);
</script>

<div class="grid gap-2">
	{#if recording.state === 'failed'}
		<Notice level="stop">{recording.error} The recording itself is kept.</Notice>
	{:else if recording.state === 'waiting'}
		<Notice>It is kept, and being heard now.</Notice>
	{:else}
		{#each recording.quality as finding (finding.id)}
			<Notice level={finding.level === 'stop' ? 'stop' : 'warn'}><b>{finding.words}</b> {finding.hint}</Notice
			>
		{:else}
			<p><b>A good recording.</b> {decimal(recording.duration_s, 1)} s, nothing cut off, nothing missing.</p>
		{/each}
		{#if recording.withheld}
			<p>What the bench heard is shown once your own ear has spoken.</p>
		{:else if recording.usable}
			<p>Heard:</p>
			<ul class="grid list-disc gap-1 pl-5">
				{#each leading as family, n (n)}
					<li>
						{family.words}{recording.echoes.includes(family.kind)
							? ' (louder at another corner: overheard)'
							: ''}
					</li>
				{:else}
					<li>{unsettled ? 'loudness' : 'no fault lines'}</li>
				{/each}
				{#if recording.speed_words && recording.speed_words !== 'as stated'}<li>
						{recording.speed_words}
					</li>{/if}
				{#each onTheRoad as words (words)}<li>{words}</li>{/each}
				{#each recording.tones as tone (tone.kind)}<li>{tone.words}</li>{/each}
				{#if recording.drag}
					<li>
						Ran down from {decimal(recording.drag.from_turns_per_s, 1)} to half as many turns a second in
						{decimal(recording.drag.halving_s, 1)} s. Compare with its mate: sooner means drag.
					</li>
				{/if}
				{#if loudness}<li>{loudness}</li>{/if}
			</ul>
			<FoundNumbers {recording} />
		{/if}
	{/if}
</div>
