<script lang="ts">
	import type { Schemas } from '$lib/api/client';
	import { session } from '$lib/session.svelte';
	import { standingFamilies } from './families';
	import Notice from '$lib/ui/Notice.svelte';

	let { recording }: { recording: Schemas['RecordingOut'] } = $props();
	const leading = $derived(standingFamilies(recording).slice(0, 2));
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
			<p><b>A good recording.</b> {recording.duration_s.toFixed(1)} s, nothing cut off, nothing missing.</p>
		{/each}
		{#if recording.usable}
			<p>
				Heard: {leading.length
					? leading.map((f) => `${session.words('line_kinds', f.kind)} (${f.standing})`).join(', ')
					: recording.turns_per_s
						? 'no fault lines'
						: 'loudness only, as no speed was given'}.
				{#if recording.relative_db !== null}{recording.relative_db.toFixed(0)} dB over the quietest corner.{/if}
			</p>
		{/if}
	{/if}
</div>
