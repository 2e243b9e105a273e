<script lang="ts">
	import type { Snippet } from 'svelte';
	import { session, type Need } from '$lib/session.svelte';
	import Notice from '$lib/ui/Notice.svelte';

	/** What is inside for those whose role allows it; for others why not, and whom to ask. */
	let { need, children }: { need: Need; children?: Snippet } = $props();
	const why = $derived(session.mayNot(need));
</script>

{#if why}<Notice>{why}</Notice>{:else}{@render children?.()}{/if}
