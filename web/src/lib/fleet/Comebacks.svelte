<script lang="ts">
	import type { Schemas } from '$lib/api/client';
	import { counted, decimal, hundredths } from '$lib/numbers';
	import Section from './Section.svelte';

	let { rows }: { rows: Schemas['ComebackOut'][] } = $props();
	const MOST = 10; // of one kind; the table has all
	const FIRST = ['All', 'Part', 'Person', 'Road'];
	const place = (by: string) => (FIRST.includes(by) ? FIRST.indexOf(by) : FIRST.length);
	/** The kinds of groups; one that all repairs are of has nothing to be held against, and is left to the table. */
	const kinds = $derived(
		[...new Set(rows.map((row) => row.by))]
			.sort((a, b) => place(a) - place(b))
			.map((by) => {
				const all = rows.filter((row) => row.by === by);
				const said = all.filter((row) => !row.few);
				return {
					by,
					all,
					shown: said.slice(0, MOST),
					more: said.length - MOST,
					few: all.length - said.length
				};
			})
			.filter((kind) => kind.by === 'All' || kind.all.length > 1)
	);
	const percent = (share: number) => `${share * 100}%`;
</script>

<Section heading="Back too soon" table="comebacks">
	<p class="text-faded">
		Repairs of three years whose wheel had to be set right or renewed again within one, or was outside at a
		look; of those a year old whose vehicle was seen again. A repack in its time is none. The bar is where the
		true share lies nineteen times in twenty, the mark what was counted.
	</p>
	{#each kinds as kind (kind.by)}
		<h3 class={kind.by === 'All' ? 'sr-only' : 'pt-2'}>{kind.by}</h3>
		<ul class="grid">
			{#each kind.shown as row (row.name)}
				<li class="grid gap-1 border-t border-groove py-2">
					<div class="flex flex-wrap justify-between gap-x-4">
						<span>{row.name}</span>
						<span class="font-mono"
							>{decimal(row.back)} of {decimal(row.of)} ({hundredths(row.low)} to {hundredths(
								row.high
							)})</span
						>
					</div>
					<div class="relative h-3 bg-groove" aria-hidden="true">
						<div
							class="absolute h-3 bg-blued"
							style:left={percent(row.low)}
							style:width={percent(row.high - row.low)}
						></div>
						<div
							class="absolute -inset-y-0.5 border-l-4 border-print"
							style:left={percent(row.back / row.of)}
						></div>
					</div>
					{#if kind.by !== 'All'}<span class="text-faded">{row.words}</span>{/if}
				</li>
			{/each}
		</ul>
		{#if kind.more > 0}<p class="text-faded">
				{counted(kind.more, ['One more', '# more'])} in the table.
			</p>{/if}
		{#if kind.few}<p class="text-faded">
				{counted(kind.few, ['One of them has', '# of them have'])} fewer than five repairs: too few to say anything.
			</p>{/if}
	{:else}
		<p class="plate">
			No repair is a year old and was seen again since. From then on, what came back is counted here by part,
			person, road and way.
		</p>
	{/each}
</Section>
