<script lang="ts">
	import { outbox } from '$lib/outbox/outbox.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import type { Capturing } from './capture.svelte';

	/** Where a recording is that was stopped and is not heard yet, and why it has not arrived. */
	let { capturing }: { capturing: Capturing } = $props();
	const now = $derived(capturing.now);
	const entry = $derived('id' in now ? outbox.of(now.id) : undefined);
	const NO_ROOM = 'This device has no room for the recording: keep this page open until it is sent.';
	const waits = $derived.by(() => {
		if (entry?.unkept) return NO_ROOM;
		if (entry?.state === 'failed')
			return 'The server failed on the recording. It is kept here and sent again.';
		if (outbox.stopped === 'signed_out')
			return 'You are signed out. The recording is kept here and sent once you have signed in again.';
		return 'The server cannot be reached. The recording is kept on this device and sent when it is back.';
	});
</script>

{#if now.state === 'checking'}
	<p role="status">{entry?.unkept ? NO_ROOM : 'Kept. Sending and hearing it …'}</p>
{:else if now.state === 'waiting'}
	<Notice level="warn">
		{waits}
		<Button look="quiet" onclick={() => capturing.again()}>Go on with the next hub</Button>
	</Notice>
{/if}
