<script lang="ts">
	import { Package } from '@lucide/svelte';
	import Button from '$lib/ui/Button.svelte';
	import Field from '$lib/ui/Field.svelte';
	import { useCase } from './case.svelte';
	import { submits } from '$lib/ui/submits';

	/** What a job waits for: written down, it stands on the yard’s board until the parts are here. */
	const held = useCase();
	const standing = $derived(held.standing('', 'parts'));
	const waits = $derived(standing?.value.answer === 'ordered');
	/** Said here and not yet believed by the server. */
	const said = $derived(held.saidHere('', 'parts'));
	let text = $state('');

	async function say(answer: 'ordered' | 'here') {
		const what = text.trim();
		await held.observe(
			'',
			'parts',
			what ? { answer, text: what } : { answer },
			answer === 'here' ? 'The parts are here' : `Ordered: ${what}`
		);
		text = '';
	}
</script>

{#if said}
	<p class="plate flex items-center gap-2" role="status">
		<Package class="shrink-0" aria-hidden="true" />{said}
	</p>
{:else if waits}
	<section class="plate flex flex-wrap items-center justify-between gap-3 border-l-ochre" aria-label="Parts">
		<p class="flex items-center gap-2">
			<Package class="shrink-0" aria-hidden="true" /><span class="first-letter:uppercase"
				>{standing?.words}</span
			>
		</p>
		<Button look="main" disabled={held.closed} onclick={() => say('here')}>The parts are here</Button>
	</section>
{:else if !held.closed}
	<form
		class="plate grid items-end gap-3 sm:grid-cols-[1fr_auto]"
		aria-label="Parts"
		onsubmit={submits(() => say('ordered'))}
	>
		<Field label="Ordered, and waited for" bind:value={text} />
		<Button type="submit" disabled={!text.trim()}>It waits for these</Button>
	</form>
{/if}
