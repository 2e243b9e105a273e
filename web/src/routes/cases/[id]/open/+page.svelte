<script lang="ts">
	import { inUnits } from '$lib/shown.svelte';
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { Check, Circle, TriangleAlert } from '@lucide/svelte';
	import { useCase } from '$lib/case/case.svelte';
	import { chosenHub } from '$lib/case/hub.svelte';
	import HubName from '$lib/case/HubName.svelte';
	import HubChooser from '$lib/case/HubChooser.svelte';
	import { nextPart } from '$lib/inspect/draft';
	import PartFinds from '$lib/inspect/PartFinds.svelte';
	import { session } from '$lib/session.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Pick from '$lib/ui/Pick.svelte';

	const held = useCase();
	const hub = $derived(chosenHub(held));
	const partsOf = (row?: { parts: string[] }) =>
		(row?.parts ?? []).flatMap((key) => session.reference?.parts[key] ?? []);
	const parts = $derived(partsOf(held.hubs.find((row) => row.id === hub)));
	const judged = $derived(held.assessment?.hubs[hub]);
	const looked = $derived(
		Object.fromEntries((judged?.inspection.looked ?? []).map((row) => [row.part, row]))
	);
	const asked = $derived(page.url.searchParams.get('part'));
	const part = $derived(
		parts.find((row) => row.key === asked) ?? parts.find((row) => !looked[row.key]) ?? parts[0]
	);
	const notes = $derived(
		Object.fromEntries(
			held.hubs.map((row) => {
				const seen = held.assessment?.hubs[row.id]?.inspection.looked.length ?? 0;
				const all = row.parts.length;
				return [row.id, seen ? `${seen} of ${all} parts` : 'not opened'];
			})
		)
	);
	let trail = $state<HTMLElement>();

	const to = (key: string) =>
		void goto(`/cases/${held.id}/open?hub=${hub}&part=${key}`, {
			replaceState: true,
			keepFocus: true,
			noScroll: true
		});
	function next(done: string) {
		to(
			nextPart(
				parts.map((row) => row.key),
				done,
				(key) => key in looked || key === done
			)
		);
		trail?.scrollIntoView({ block: 'nearest' });
	}
</script>

{#if part && judged}
	<div class="grid gap-6 wide:grid-cols-[2fr_3fr]">
		<section class="grid content-start gap-4" bind:this={trail}>
			<h1>Open <HubName {hub} /></h1>
			<div class="sm:hidden">
				<Pick
					label="Part {parts.indexOf(part) + 1} of {parts.length}, in the order they come off"
					options={parts.map((row) => ({
						key: row.key,
						words: looked[row.key] ? `${row.label}: looked at` : row.label
					}))}
					bind:value={() => part?.key ?? '', to}
				/>
			</div>
			<ol class="grid gap-1 max-sm:hidden" aria-label="Parts in the order they come off">
				{#each parts as row, n (row.key)}
					{@const seen = looked[row.key]}
					{@const here = row.key === part.key}
					<li>
						<button
							type="button"
							aria-current={here ? 'step' : undefined}
							onclick={() => to(row.key)}
							class="flex min-h-12 w-full items-center gap-3 rounded-sm border px-3 py-1.5 text-left leading-tight {here
								? 'border-2 border-blued bg-plate font-semibold'
								: 'border-groove'}"
						>
							<span class="w-6 shrink-0 font-mono text-faded">{n + 1}</span>
							{#if !seen}<Circle class="size-5 shrink-0 text-faded" aria-hidden="true" />
							{:else if seen.fine}<Check class="size-5 shrink-0" aria-hidden="true" />
							{:else}<TriangleAlert class="size-5 shrink-0 text-oxide" aria-hidden="true" />{/if}
							<span class="grow"
								>{row.label}{#if seen}<span
										class="block font-normal {seen.fine ? 'text-faded' : 'text-oxide'}"
										>{seen.words.slice(row.label.length + 2)}</span
									>{:else}<span class="sr-only">, not looked at yet</span>{/if}</span
							>
						</button>
					</li>
				{/each}
			</ol>
			<p class="text-faded">
				{judged.inspection.looked.length} of {parts.length} parts looked at. {judged.inspection.complete
					? 'Every part that rolls was seen.'
					: 'What is logged is kept; come back any time.'}
			</p>
			<p>
				<a
					class="flex min-h-12 items-center underline underline-offset-4"
					href="/cases/{held.id}/test/opened?hub={hub}">In one word instead, for a look in passing</a
				>
			</p>
			<div class="max-sm:hidden"><HubChooser selected={hub} {notes} /></div>
		</section>
		<section class="grid content-start gap-4">
			<h2 class="text-2xl">{part.label}</h2>
			{#key hub + part.key}<PartFinds {hub} {part} ondone={next} onlook={to} />{/key}
			{#if !held.detail?.withheld}<div
					class="plate grid gap-2 {judged.settled ? 'border-l-oxide' : ''}"
					role="status"
				>
					<p class="text-faded">So far {judged.settled ? 'that means' : 'it points to'}</p>
					<p class="text-xl font-semibold">{judged.choice_label}</p>
					<p>{inUnits(judged.because)}</p>
					<div><Button href="/cases/{held.id}/decide?hub={hub}">Decide {hub}</Button></div>
				</div>{/if}
			<Notice level="warn">{session.reference?.wording.caution_open}</Notice>
			<div class="sm:hidden"><HubChooser selected={hub} {notes} /></div>
		</section>
	</div>
{/if}
