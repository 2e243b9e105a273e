<script lang="ts">
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
		files.map((file) => ({ file, place: placeByName(file.name, held.hubs, axleOf), wrong: '' }))
	);
	let done = $state(0);
	let sending = $state(false);
	const chosen = $derived(sorted.filter((row) => row.place));

	async function send() {
		sending = true;
		for (const row of chosen) {
			try {
				const sound = await readable(row.file);
				const id = crypto.randomUUID();
				const made = { ...make(row.place), place: row.place };
				const label = `${row.file.name} at ${row.place}`;
				await outbox.add({ id, caseId: held.id, label, kind: 'recording', made, sound });
				row.wrong = outbox.refusalOf(id) ?? '';
			} catch (error) {
				row.wrong = wordsOf(error);
			}
			done += 1;
		}
		sending = false;
		await held.refresh();
		if (chosen.every((row) => !row.wrong)) ondone();
	}
</script>

<section class="plate grid gap-3 border-l-ochre" aria-label="Sort the files">
	<h2>Which file is which hub?</h2>
	<ul class="grid gap-2">
		{#each sorted as row (row.file.name + row.file.size)}
			<li class="grid items-end gap-2 sm:grid-cols-[1fr_12rem]">
				<span class="break-all">{row.file.name}</span>
				<Pick label="Place of {row.file.name}" options={places} bind:value={row.place} />
				{#if row.wrong}<p class="text-oxide sm:col-span-2">{row.wrong}</p>{/if}
			</li>
		{/each}
	</ul>
	{#if sending}
		<progress class="h-4 w-full" max={chosen.length} value={done} aria-label="Files sent"></progress>
	{/if}
	<div class="flex flex-wrap gap-3">
		<Button look="main" onclick={send} disabled={sending || !chosen.length}>
			{sending
				? `${done} of ${chosen.length} sent`
				: chosen.length === 1
					? 'Send one file'
					: `Send ${chosen.length} files`}
		</Button>
		<Button look="quiet" onclick={ondone}>Never mind</Button>
	</div>
</section>
