<script lang="ts">
	import { small } from '$lib/language';
	import { downloadBlob } from '$lib/download';
	import { counted } from '$lib/numbers';
	import { session } from '$lib/session.svelte';
	import SignIn from '$lib/SignIn.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Overtaken from './Overtaken.svelte';
	import { outbox, overtaken, type Entry } from './outbox.svelte';

	const unkept = $derived(outbox.entries.filter((entry) => entry.unkept));
	const amiss = $derived(outbox.entries.filter((entry) => entry.state !== 'waiting'));
	const count = (n: number) => counted(n, ['One entry is', '# entries are']);
</script>

{#snippet parting(entry: Entry)}
	<span class="flex flex-wrap gap-2 pt-2">
		{#if entry.state === 'failed'}<Button onclick={() => outbox.flush()}>Try now</Button>{/if}
		{#if entry.kind === 'recording'}
			<Button onclick={() => downloadBlob(entry.sound, `${entry.made.place}.wav`)}
				>Save the sound as a file</Button
			>
		{/if}
		<Button look="quiet" onclick={() => outbox.discard(entry)}>Let it go</Button>
	</span>
{/snippet}

<div class="grid gap-3 not-empty:pb-3" aria-live="polite">
	{#if session.expired}
		<section class="grid gap-3" aria-label="Sign in again">
			<Notice level="warn"
				>You have been signed out. Sign in again here and go on; {outbox.entries.length
					? `${small(count(outbox.entries.length))} kept on this device and sent then`
					: 'what you typed still stands'}.</Notice
			>
			<SignIn slim />
		</section>
	{/if}
	{#if outbox.unread}
		<Notice level="warn">
			What waits on this device cannot be read just now. Nothing of it is lost; it is tried again every few
			seconds.
		</Notice>
	{/if}
	{#if unkept.length}
		<Notice level="stop">
			This device has no room left: {small(count(unkept.length))} in this page only. Keep it open until they are
			sent, and make room.
		</Notice>
	{/if}
	{#if outbox.stopped === 'offline' && outbox.waiting.length}
		<Notice level="warn">
			The server cannot be reached. {count(outbox.waiting.length)} kept on this device and sent when it is back.
			Work on.
			<Button look="quiet" onclick={() => outbox.flush()}>Try now</Button>
		</Notice>
	{/if}
	{#each amiss as entry (entry.seq)}
		{#if overtaken(entry)}
			<Overtaken {entry} />
		{:else if entry.state === 'failed'}
			<Notice level="warn"
				>{entry.label}: {entry.words} It is kept here and tried again; later entries go on.{@render parting(
					entry
				)}</Notice
			>
		{:else}
			<Notice level="stop">{entry.label} was not taken: {entry.words}{@render parting(entry)}</Notice>
		{/if}
	{/each}
</div>
