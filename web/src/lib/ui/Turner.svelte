<script lang="ts">
	import Button from './Button.svelte';

	/** Turns the pages of a list; nothing where there is one page. */
	let { page = $bindable(), pages, of }: { page: number; pages: number; of: string } = $props();
</script>

{#if pages > 1}
	<nav class="flex items-center justify-between" aria-label="Pages of {of}">
		<Button disabled={page <= 1} onclick={() => (page -= 1)}>Back</Button>
		<span>{page} of {pages}</span>
		<Button disabled={page >= pages} onclick={() => (page += 1)}>More</Button>
	</nav>
{/if}
