<script lang="ts">
	import Button from '$lib/ui/Button.svelte';
	import { useCase } from './case.svelte';

	/** What was said last of a test, said of every hub that has no answer yet: in one tap, once somebody looked at all. */
	let { witness }: { witness: string } = $props();
	const held = useCase();
	/** Whose answer is words alone: figures are each hub's own. */
	const PLAIN = ['answer', 'how'];
	const last = $derived(
		held.detail?.observations
			.filter((row) => row.kind === witness && row.hub && !row.job && !row.superseded && !row.withdrawn)
			.at(-1)
	);
	const open = $derived(
		held.hubs.filter(
			(hub) =>
				held.assessment?.tests[hub.id]?.includes(witness) &&
				!held.standing(hub.id, witness) &&
				!held.saidHere(hub.id, witness)
		)
	);
	const plain = $derived(last && Object.keys(last.value).every((key) => PLAIN.includes(key)));

	async function say() {
		if (!last) return;
		const { value, words } = last;
		for (const hub of open) await held.observe(hub.id, witness, value, `${hub.id}: ${words}`);
	}
</script>

{#if last && plain && open.length && !held.closed}
	<div>
		<Button onclick={say}
			>{open.length === 1 ? `The same at ${open[0]?.words}` : `The same at the other ${open.length}`}: {last.words}</Button
		>
	</div>
{/if}
