<script lang="ts">
	import { useCase } from './case.svelte';

	/** A hub as people call it, its short name second. */
	let { hub }: { hub: string } = $props();
	const held = useCase();
	const words = $derived(held.hubs.find((row) => row.id === hub)?.words ?? '');
</script>

{words} <span class="font-mono">{hub}</span>
