<script lang="ts">
	import { Trash2 } from '@lucide/svelte';
	import { wordsOf } from '$lib/api/client';
	import Button from '$lib/ui/Button.svelte';
	import Notice from '$lib/ui/Notice.svelte';

	interface Props {
		/** What goes, as its button says it. */
		label: string;
		/** What goes with it and what stays, read before it is done. */
		words: string;
		/** Does it; what it raises is said. */
		act: () => Promise<unknown>;
	}
	let { label, words, act }: Props = $props();
	let asked = $state(false);
	let busy = $state(false);
	let wrong = $state('');
	async function go() {
		busy = true;
		wrong = '';
		try {
			await act();
			asked = false;
		} catch (error) {
			wrong = wordsOf(error);
		} finally {
			busy = false;
		}
	}
</script>

{#if asked}
	<Notice level="warn">
		{words}
		<span class="flex flex-wrap gap-2 pt-2">
			<Button disabled={busy} onclick={() => void go()}>{label}: yes, for good</Button>
			<Button look="quiet" onclick={() => (asked = false)}>Leave it</Button>
		</span>
	</Notice>
{:else}
	<Button look="quiet" onclick={() => (asked = true)}><Trash2 aria-hidden="true" />{label} …</Button>
{/if}
{#if wrong}<Notice level="stop">{wrong}</Notice>{/if}
