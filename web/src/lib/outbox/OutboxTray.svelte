<script lang="ts">
	import Button from '$lib/ui/Button.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import { outbox } from './outbox.svelte';

	const refused = $derived(outbox.entries.filter((entry) => entry.refused));
	const waiting = $derived(outbox.entries.filter((entry) => !entry.refused));

	function save(blob: Blob, name: string) {
		const link = document.createElement('a');
		link.href = URL.createObjectURL(blob);
		link.download = name;
		link.click();
		setTimeout(() => URL.revokeObjectURL(link.href), 1000);
	}
</script>

{#if outbox.offline && waiting.length}
	<div class="pb-3">
		<Notice level="warn">
			The server cannot be reached. {waiting.length === 1 ? 'One entry is' : `${waiting.length} entries are`} kept
			on this device and sent when it is back. Work on.
			<Button look="quiet" onclick={() => outbox.flush()}>Try now</Button>
		</Notice>
	</div>
{/if}
{#each refused as entry (entry.id)}
	<div class="pb-3">
		<Notice level="stop">
			{entry.label} was not taken: {entry.refused}
			{#if entry.kind === 'recording'}<Button
					look="quiet"
					onclick={() => save(entry.sound, `${entry.made.place}.wav`)}>Save the sound as a file</Button
				>{/if}
			<Button look="quiet" onclick={() => outbox.discard(entry.id)}>Let it go</Button>
		</Notice>
	</div>
{/each}
