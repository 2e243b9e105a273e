<script lang="ts">
	import Button from '$lib/ui/Button.svelte';
	import { useCase } from './case.svelte';

	/** What was said last of tests, said of every hub that has no answer yet: in one tap, once somebody looked at all. */
	let { witnesses }: { witnesses: string[] } = $props();
	const held = useCase();
	/** Whose answer is words alone: figures are each hub's own. */
	const PLAIN = ['answer', 'how'];
	const said = $derived(
		(held.detail?.observations ?? []).filter(
			(row) => witnesses.includes(row.kind) && row.hub && !row.job && !row.superseded && !row.withdrawn
		)
	);
	/** All of it at the hub that was answered last. */
	const last = $derived(
		said.filter(
			(row) => row.hub === said.at(-1)?.hub && Object.keys(row.value).every((key) => PLAIN.includes(key))
		)
	);
	const open = $derived(held.hubs.filter((hub) => last.some((row) => held.due(hub.id, row.kind))));
	const words = $derived([...new Set(last.map((row) => row.words))].join('; '));

	async function say() {
		const [hubs, rows] = [open, last];
		for (const hub of hubs)
			for (const { kind, value, words } of rows)
				if (held.due(hub.id, kind)) await held.observe(hub.id, kind, value, `${hub.id}: ${words}`);
	}
</script>

{#if open.length && !held.closed}
	<div>
		<Button onclick={say}
			>{open.length === 1 ? `The same at ${open[0]?.words}` : `The same at the other ${open.length}`}: {words}</Button
		>
	</div>
{/if}
