<script lang="ts">
	import { page } from '$app/state';
	import type { Snippet } from 'svelte';
	import CaseFrame from '$lib/case/CaseFrame.svelte';

	let { children }: { children: Snippet } = $props();
</script>

{#key page.params.id}
	<CaseFrame id={page.params.id ?? ''}>{@render children()}</CaseFrame>
{/key}
