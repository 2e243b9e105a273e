<script lang="ts">
	import type { Snippet } from 'svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import type { Entry } from './outbox.svelte';

	/** What waits to be sent, said where it was entered: where it is kept, and what becomes of it then. */
	let { entries, what, children }: { entries: Entry[]; what: string; children: Snippet } = $props();
	const inPageOnly = $derived(entries.some((entry) => entry.unkept));
</script>

{#if entries.length}
	<Notice level="warn"
		>{what}
		{inPageOnly
			? 'waits in this page only, as the device has no room: keep it open.'
			: 'is kept on this device.'}
		{@render children()}</Notice
	>
{/if}
