<script lang="ts">
	import { FileDown, FileUp } from '@lucide/svelte';
	import { page } from '$app/state';
	import { api, ask, wordsOf, type Schemas } from '$lib/api/client';
	import { moment } from '$lib/dates';
	import { counted } from '$lib/numbers';
	import { inUnits } from '$lib/shown.svelte';
	import EntryForm from '$lib/log/EntryForm.svelte';
	import { outbox } from '$lib/outbox/outbox.svelte';
	import Waits from '$lib/outbox/Waits.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Field from '$lib/ui/Field.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Pick from '$lib/ui/Pick.svelte';
	import Turner from '$lib/ui/Turner.svelte';

	let book = $state.raw<Schemas['LogbookOut'] | null>(null);
	let hub = $state('');
	let kind = $state('');
	let word = $state('');
	let number = $state(1);
	let wrong = $state('');
	let asked = 0;
	const id = $derived(page.params.id ?? '');
	const query = $derived({ hub, kind, word });
	const paper = $derived(new URLSearchParams(query).toString());

	$effect(() => void load(id, { ...query, page: number }));
	async function load(vehicle_id: string, query: { hub: string; kind: string; word: string; page: number }) {
		const mine = ++asked;
		try {
			const params = { path: { vehicle_id }, query };
			const found = await ask(api.GET('/api/vehicles/{vehicle_id}/logbook', { params }));
			if (mine !== asked) return;
			book = found;
			wrong = '';
		} catch (error) {
			if (mine === asked) wrong = wordsOf(error);
		}
	}
	const again = () => load(id, { ...query, page: number });
	const to = $derived(`/api/vehicles/${id}/logbook`);
	/** What waited on this device is in the book now. */
	$effect(() => outbox.onSent((entry) => void (entry.kind === 'write' && entry.to === to && again())));

	/** A line is never taken out: another one says that it does not count. */
	async function strike(row: Schemas['LogRowOut']) {
		const number = crypto.randomUUID();
		const on = row.at.slice(0, 10);
		const body = { id: number, supersedes: row.written, withdrawn: true, kind: 'note', on };
		const label = 'A line of the logbook struck out';
		try {
			await outbox.enter({ id: number, caseId: '', label, kind: 'write', method: 'POST', to, body });
			await again();
		} catch (error) {
			wrong = wordsOf(error);
		}
	}
	const first = (set: () => void) => {
		set();
		number = 1; // the third page of another choice may not be there
	};
</script>

<svelte:head><title>Logbook of {book?.vehicle_label ?? 'a vehicle'} · Hematite</title></svelte:head>

{#if wrong}<Notice level="stop">{wrong}</Notice>{/if}
{#if book}
	<div class="flex flex-wrap items-center justify-between gap-3 pb-3">
		<h1>Logbook of {book.vehicle_label}</h1>
		<div class="flex flex-wrap gap-2">
			<Button href="/vehicles/{id}">Back to the vehicle</Button>
			<Button href="/api/vehicles/{id}/logbook.pdf?{paper}"><FileDown aria-hidden="true" />PDF</Button>
			<Button href="/api/vehicles/{id}/logbook.csv?{paper}"><FileDown aria-hidden="true" />CSV</Button>
			<Button href="/vehicles/{id}/logbook/table"><FileUp aria-hidden="true" />Bring a book along</Button>
		</div>
	</div>
	<Waits entries={outbox.writes(to)} what="What was written">It is kept when the server is back.</Waits>
	<details class="pb-4">
		<summary class="min-h-12 cursor-pointer py-2">Write a line: a part, its batch, a torque, a word</summary>
		<EntryForm vehicle={id} hubs={book.hubs} kinds={book.writes} onwritten={() => void again()} />
	</details>
	<div class="grid gap-3 pb-4 sm:grid-cols-3">
		<Pick
			label="Hub"
			options={[{ key: '', words: 'All' }, ...book.hubs.map((key) => ({ key, words: key }))]}
			bind:value={() => hub, (one) => first(() => (hub = one))}
		/>
		<Pick
			label="What"
			options={[
				{ key: '', words: 'Everything' },
				...book.kinds.map((row) => ({ key: row.key, words: row.label }))
			]}
			bind:value={() => kind, (one) => first(() => (kind = one))}
		/>
		<Field label="A word in it" bind:value={() => word, (one) => first(() => (word = one))} />
	</div>
	<p class="pb-2 text-faded" role="status">
		{counted(book.count, ['One entry', '# entries'])}, the latest first.
	</p>
	<ol class="grid" aria-label="Entries">
		{#each book.rows as row, n (n)}
			<li class="grid gap-x-4 border-t border-groove py-2 sm:grid-cols-[9rem_4rem_8rem_1fr_auto]">
				<span class="text-faded">{moment(row.at)}</span>
				<span class="font-mono">{row.hub}</span>
				<span class="text-faded">{row.kind_label}</span>
				<span class={row.struck ? 'line-through' : ''}
					>{#if row.struck}<span class="sr-only">struck out: </span>{/if}{inUnits(row.words)}
					<span class="text-faded">{row.person}</span></span
				>
				{#if row.case}<a
						class="min-h-12 content-center underline underline-offset-4 sm:min-h-0"
						href="/cases/{row.case}">case</a
					>{:else if row.written}<Button look="quiet" onclick={() => void strike(row)}
						>Strike out<span class="sr-only">: {row.words}</span></Button
					>{/if}
			</li>
		{:else}
			<li class="plate">Nothing of that is written down.</li>
		{/each}
	</ol>
	<Turner bind:page={number} pages={book.pages} of="entries" />
{/if}
