<script lang="ts">
	import Button from '$lib/ui/Button.svelte';
	import Figure from '$lib/ui/Figure.svelte';
	import { fixed } from '$lib/units';
	import { asked, shown } from './figures';

	type Row = { mm: number | null; count: number | null };
	interface Props {
		label: string;
		rows: Row[];
		onset: (rows: Row[]) => void;
	}
	let { label, rows, onset }: Props = $props();
	/** One empty line more than there are thicknesses, to be filled next. */
	let empty = $state(0);
	const lines = $derived([...rows, ...Array.from({ length: empty }, (): Row => ({ mm: null, count: null }))]);

	function put(n: number, what: Partial<Row>) {
		const now = lines.map((row, at) => (at === n ? { ...row, ...what } : row));
		empty = now.filter((row) => row.mm === null).length;
		onset(now.filter((row) => row.mm !== null));
	}
</script>

<fieldset class="grid gap-2 sm:col-span-2">
	<legend class="pb-1 text-faded">{label}</legend>
	{#each lines as row, n (n)}
		<div class="grid grid-cols-2 gap-2">
			<Figure
				label="Thickness"
				bind:value={() => shown(row.mm, 'mm'), (si) => put(n, { mm: asked(si, 'mm') })}
				of="length"
				above={0}
			/>
			<Figure
				label="How many"
				bind:value={() => row.count, (count) => put(n, { count })}
				unit={fixed('', 0)}
				least={0}
				placeholder="not counted"
			/>
		</div>
	{/each}
	<div><Button onclick={() => (empty += 1)}>Another thickness</Button></div>
</fieldset>
