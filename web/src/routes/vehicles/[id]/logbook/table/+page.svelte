<script lang="ts">
	import { page } from '$app/state';
	import { notDone, sendForm, type Schemas } from '$lib/api/client';
	import { day } from '$lib/dates';
	import { counted } from '$lib/numbers';
	import Button from '$lib/ui/Button.svelte';
	import Choice from '$lib/ui/Choice.svelte';
	import FilePick from '$lib/ui/FilePick.svelte';
	import Notice from '$lib/ui/Notice.svelte';

	type Brought = Schemas['BroughtOut'];
	const SHOWN = 12;

	let file = $state.raw<File | null>(null);
	let seen = $state.raw<Brought | null>(null);
	let brought = $state.raw<Brought | null>(null);
	let dates = $state('');
	let open = $state(false);
	let busy = $state(false);
	let wrong = $state('');
	const id = $derived(page.params.id ?? '');
	const shown = $derived(brought ?? seen);
	const lines = $derived(shown?.new.reduce((sum, row) => sum + row.count, 0) ?? 0);

	async function send(look: boolean): Promise<Brought | null> {
		if (!file) return null;
		busy = true;
		wrong = '';
		const form = new FormData();
		form.set('table', file);
		form.set('dates', dates);
		try {
			return await sendForm<Brought>(`/api/vehicles/${id}/logbook/table${look ? '/look' : ''}`, form);
		} catch (error) {
			wrong = notDone(error, 'written');
			return null;
		} finally {
			busy = false;
		}
	}
	async function look(chosen: File) {
		file = chosen;
		seen = brought = null;
		dates = '';
		seen = await send(true);
		open = seen?.open_dates ?? false;
	}
	const lookAgain = async () => (seen = await send(true));
	const take = async () => (brought = await send(false));
</script>

<svelte:head><title>Bring a book along · Hematite</title></svelte:head>

<div class="grid max-w-3xl gap-4">
	<div class="flex flex-wrap items-center justify-between gap-3">
		<h1>Bring a book along</h1>
		<Button href="/vehicles/{id}/logbook">Back to the logbook</Button>
	</div>
	<p>
		A table of what was done and measured before, as CSV: a line for each entry, with a date. Columns are
		known by their headings, such as Date, Hub, What, Part, Number, Batch, Grease, Torque (N·m), Play (mm),
		Odometer (km), Note, Person.
	</p>
	<FilePick
		what="a table (.csv)"
		accept=".csv,.txt,text/csv"
		name={file?.name}
		disabled={busy}
		onpick={look}
	/>
	<div role="status">{busy ? 'Reading it …' : ''}</div>
	{#if wrong}<Notice level="stop">{wrong}</Notice>{/if}

	{#if shown}
		<section
			class="plate grid gap-3 border-l-blued"
			aria-label={brought ? 'What was written' : 'What it says'}
		>
			<h2>
				{brought ? 'Written' : 'It would write'}: {counted(lines, ['one line', '# lines'])}
			</h2>
			{#if shown.new.length}
				<p>{shown.new.map((row) => `${row.label}: ${row.count}`).join(' · ')}</p>
			{/if}
			{#if shown.first_on && shown.last_on}
				<p>From {day(shown.first_on)} to {day(shown.last_on)}.</p>
			{/if}
			{#if shown.here}<p>{counted(shown.here, ['One line is', '# lines are'])} here already.</p>{/if}
			{#if !brought}
				<ul class="grid gap-1 sm:grid-cols-2" aria-label="Its columns">
					{#each shown.columns as column, n (n)}
						<li>
							<span class="font-mono">{column.heading || 'without a heading'}</span>:
							<span class="text-faded">{column.taken_for || 'left out'}</span>
						</li>
					{/each}
				</ul>
			{/if}
			{#if open && !brought}
				<Notice level="warn">
					Its dates can be read in two ways. Which stands first?
					<Choice
						label="Which stands first in a date"
						options={[
							{ key: 'day_first', words: 'The day' },
							{ key: 'month_first', words: 'The month' }
						]}
						bind:value={dates}
						onchange={() => void lookAgain()}
						row
					/>
				</Notice>
			{/if}
			{#if shown.amiss.length}
				<Notice level="warn">
					{counted(shown.amiss.length, ['One line cannot', '# lines cannot'])} be taken:
					<ul class="list-disc pl-5">
						{#each shown.amiss.slice(0, SHOWN) as words, n (n)}<li>{words}</li>{/each}
						{#if shown.amiss.length > SHOWN}<li>and {shown.amiss.length - SHOWN} more</li>{/if}
					</ul>
				</Notice>
			{/if}
			<div>
				{#if brought}
					<Button look="main" href="/vehicles/{id}/logbook">To the logbook</Button>
				{:else}
					<Button look="main" onclick={take} disabled={busy || !lines || (open && !dates)}
						>Write it down</Button
					>
				{/if}
			</div>
		</section>
	{/if}
</div>
