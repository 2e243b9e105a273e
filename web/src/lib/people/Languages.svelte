<script lang="ts">
	import { language, NAMES, speak } from '$lib/language';
	import { session } from '$lib/session.svelte';
	import Button from '$lib/ui/Button.svelte';

	/** The languages of this server, for whoever is not signed in yet. */
	const others = $derived(session.languages.filter((one) => one !== language));
</script>

{#if others.length}
	<div class="flex flex-wrap justify-end gap-2">
		{#each others as one (one)}
			<span lang={one}><Button look="quiet" onclick={() => speak(one)}>{NAMES[one]}</Button></span>
		{/each}
	</div>
{/if}
