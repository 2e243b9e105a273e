<script lang="ts">
	import { counted } from '$lib/numbers';
	import { wordsOf, type Schemas } from '$lib/api/client';
	import { useCase } from '$lib/case/case.svelte';
	import { outbox } from '$lib/outbox/outbox.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Pick from '$lib/ui/Pick.svelte';
	import { placeByName, readable } from './files';
	import { CABIN } from './made.svelte';

	interface Props {
		files: File[];
		/** How a file at a place is said to be made. */
		make: (hub: string) => Schemas['MadeIn'];
		ondone: () => void;
	}
	let { files, make, ondone }: Props = $props();
	const held = useCase();
	const axleOf = (hub: string) =>
		(held.detail?.vehicle_detail.axles.findIndex((axle) => axle.hubs.some((row) => row.id === hub)) ?? 0) + 1;
	const places = $derived([
		...held.hubs.map((hub) => ({ key: hub.id, words: hub.id })),
		{ key: CABIN, words: 'Cabin' },
		{ key: '', words: 'Leave it out' }
	]);
	// svelte-ignore state_referenced_locally
	let sorted = $state(
		files.map((file) => ({ file, place: placeByName(file.name, held.hubs, axleOf), wrong: '', id: '' }))
	);
	const chosen = $derived(sorted.filter((row) => row.place));
	/** The numbers under which files are kept, by their place in the list. */
	let numbers = $state.raw<string[]>([]);
	let keeping = $state(false);
	const left = $derived(numbers.filter((id) => outbox.of(id)).length);

	/** All are kept on this device first, then sent: whatever happens to page or line, none is lost or sent twice. */
	async function send() {
		keeping = true;
		const kept: string[] = [];
		for (const row of chosen) {
			try {
				const sound = await readable(row.file);
				const id = crypto.randomUUID();
				const made = { ...make(row.place), place: row.place };
				const label = `${row.file.name} at ${row.place}`;
				await outbox.keep({ id, caseId: held.id, label, kind: 'recording', made, sound });
				row.id = id;
				kept.push(id);
			} catch (error) {
				row.wrong = wordsOf(error);
			}
		}
		numbers = kept;
		keeping = false;
		await outbox.flush();
		if (chosen.every((row) => !row.wrong && !outbox.of(row.id))) ondone();
	}
	const wrongOf = (row: { id: string; wrong: string }) => row.wrong || outbox.refusalOf(row.id);
</script>

<section class="plate grid gap-3 border-l-ochre" aria-label="Sort the files">
	<h2>Which file is which hub?</h2>
	<ul class="grid gap-2">
		{#each sorted as row (row.file.name + row.file.size)}
			<li class="grid items-end gap-2 sm:grid-cols-[1fr_12rem]">
				<span class="break-all">{row.file.name}</span>
				<Pick label="Place of {row.file.name}" options={places} bind:value={row.place} />
				{#if wrongOf(row)}<p class="text-oxide sm:col-span-2">{wrongOf(row)}</p>{/if}
			</li>
		{/each}
	</ul>
	{#if numbers.length}
		<p role="status">
			{numbers.length - left} of {numbers.length} are sent.
			{numbers.some((id) => outbox.of(id)?.unkept)
				? 'The device has no room for the others: keep this page open.'
				: 'The others are on this device. You may leave this page.'}
		</p>
		<progress class="h-4 w-full" max={numbers.length} value={numbers.length - left} aria-label="Files sent"
		></progress>
	{/if}
	<div class="flex flex-wrap gap-3">
		{#if !numbers.length}
			<Button look="main" onclick={send} disabled={keeping || !chosen.length}>
				{keeping ? 'Keeping them …' : `Send ${counted(chosen.length, ['one file', '# files'])}`}
			</Button>
		{/if}
		<Button look="quiet" onclick={ondone}>{numbers.length ? 'Done' : 'Never mind'}</Button>
	</div>
</section>
