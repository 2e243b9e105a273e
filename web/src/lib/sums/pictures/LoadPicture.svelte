<script lang="ts">
	/** What each row bears, before and after, as bars beside each other. */
	let { picture }: { picture: Record<string, unknown> } = $props();
	const loads = $derived((picture.loads_n as number[][] | undefined) ?? []);
	const most = $derived(Math.max(...loads.flat(), 1));
	const bars = $derived(
		['outer row', 'inner row'].flatMap((words, row) =>
			['before', 'after'].map((when, n) => ({
				words: n ? '' : words,
				when,
				load: loads[n]?.[row] ?? 0,
				after: n === 1
			}))
		)
	);
	const words = $derived(
		bars.map((bar, n) => `${n < 2 ? 'outer' : 'inner'} row ${bar.when} ${bar.load.toFixed(0)} N`).join(', ')
	);
</script>

<svg viewBox="0 0 300 108" class="w-full max-w-96" role="img" aria-label={words} fill="none">
	{#each bars as bar, n (n)}
		{@const y = 6 + n * 24 + (n > 1 ? 6 : 0)}
		<text x="70" y={y + 13} text-anchor="end" fill="currentColor" class="text-[12px]"
			>{bar.words || bar.when}</text
		>
		<rect
			x="78"
			{y}
			width={(bar.load / most) * 150}
			height="17"
			stroke="currentColor"
			fill="currentColor"
			fill-opacity={bar.after ? 0.45 : 0.12}
		/>
		<text x={84 + (bar.load / most) * 150} y={y + 13} fill="currentColor" class="font-mono text-[12px]"
			>{bar.load.toFixed(0)} N</text
		>
	{/each}
</svg>
