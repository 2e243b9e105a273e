<script lang="ts">
	import { notDone, sendForm, type Schemas } from '$lib/api/client';
	import { day, moment } from '$lib/dates';
	import { counted } from '$lib/numbers';
	import Button from '$lib/ui/Button.svelte';
	import Choice from '$lib/ui/Choice.svelte';
	import FilePick from '$lib/ui/FilePick.svelte';
	import MayNot from '$lib/people/MayNot.svelte';
	import Notice from '$lib/ui/Notice.svelte';

	type Taken = Schemas['TakenOut'];
	const NEW = 'new';

	let file = $state.raw<File | null>(null);
	let seen = $state.raw<Taken | null>(null);
	let taken = $state.raw<Taken | null>(null);
	let busy = $state<'' | 'look' | 'take'>('');
	let wrong = $state('');
	/** Onto which vehicle: a new one, or one of the workshop that bears the same plate. */
	let onto = $state<string>(NEW);

	const shown = $derived(taken ?? seen);
	const added = $derived(shown?.kinds.reduce((sum, kind) => sum + kind.new, 0) ?? 0);
	const nothing = $derived(
		seen !== null && !added && !seen.new_vehicle && seen.cases.every((row) => row.known)
	);

	async function send(to: string, doing: 'look' | 'take'): Promise<Taken | null> {
		if (!file) return null;
		busy = doing;
		wrong = '';
		const form = new FormData();
		form.set('bundle', file);
		if (onto !== NEW) form.set('onto', onto);
		try {
			return await sendForm<Taken>(to, form);
		} catch (error) {
			wrong = notDone(error, 'taken in');
			return null;
		} finally {
			busy = '';
		}
	}
	async function look(chosen: File) {
		file = chosen;
		seen = taken = null;
		onto = NEW;
		seen = await send('/api/bundles/look', 'look');
	}
	/** Another vehicle chosen: what it would do there is another question. */
	async function lookAgain() {
		const again = await send('/api/bundles/look', 'look');
		if (again) seen = { ...again, same_plate: seen?.same_plate ?? again.same_plate };
	}
	const take = async () => (taken = await send('/api/bundles', 'take'));
</script>

<svelte:head><title>Take in a bundle · Hematite</title></svelte:head>

<div class="grid max-w-3xl gap-4">
	<h1>Take in a bundle</h1>
	<p>
		A case or a vehicle that somebody took along from Hematite, or that another program wrote in the open
		format (.zip). What is here already stays as it is; what is new is added.
	</p>
	<FilePick
		what="a bundle (.zip)"
		accept=".zip,application/zip"
		name={file?.name}
		disabled={busy !== ''}
		onpick={look}
	/>
	<div role="status">
		{#if busy === 'look'}Looking what is in it …{:else if busy === 'take'}Taking it in …{/if}
	</div>
	{#if wrong}<Notice level="stop">{wrong}</Notice>{/if}

	{#if shown}
		<section
			class="plate grid gap-3 border-l-blued"
			aria-label={taken ? 'What was taken in' : 'What it holds'}
		>
			<h2>{shown.vehicle.label}{shown.vehicle.plate ? `, ${shown.vehicle.plate}` : ''}</h2>
			<p>
				{shown.workshop ? `From ${shown.workshop}` : 'No workshop is named in it'}{shown.made_at
					? `, made ${moment(shown.made_at)}`
					: ''}.
				{#if taken}{taken.new_vehicle
						? 'It is a new vehicle here.'
						: 'It was added to the vehicle that is here.'}
				{:else if shown.new_vehicle}It will be a new vehicle here.
				{:else}This vehicle is here; its description stays as it is.{/if}
			</p>
			{#if !taken && seen?.same_plate.length}
				<div class="grid gap-1">
					<p>A vehicle with this plate is here already. Is it the same one?</p>
					<Choice
						label="Which vehicle it is"
						options={[
							...seen.same_plate.map((row) => ({ key: row.id, words: `Yes: ${row.label}` })),
							{ key: NEW, words: 'No: a vehicle of its own' }
						]}
						bind:value={onto}
						onchange={() => void lookAgain()}
					/>
				</div>
			{/if}
			{#if shown.kinds.length}
				<table class="w-full max-w-xl text-left">
					<thead>
						<tr class="border-b border-groove"
							><th class="py-1 font-semibold" scope="col">What</th><th class="px-2 text-right" scope="col"
								>{taken ? 'Added' : 'New'}</th
							><th class="text-right" scope="col">Here already</th></tr
						>
					</thead>
					<tbody>
						{#each shown.kinds as kind (kind.label)}
							<tr class="border-b border-groove"
								><th class="py-1 font-normal" scope="row">{kind.label}</th><td
									class="px-2 text-right font-mono">{kind.new}</td
								><td class="text-right font-mono">{kind.here}</td></tr
							>
						{/each}
					</tbody>
				</table>
			{/if}
			{#if shown.cases.length}
				<h3>{counted(shown.cases.length, ['One case', '# cases'])}</h3>
				<ul class="grid gap-1">
					{#each shown.cases as row (row.id)}
						<li>
							<span class="text-faded"
								>{day(row.opened_at)},
								{row.known
									? row.added
										? counted(row.added, ['one entry is new', '# entries are new'])
										: 'all of it is here'
									: 'new here'}:</span
							>
							{#if taken}<a class="underline underline-offset-4" href="/cases/{row.id}"
									>{row.complaint || 'Without a complaint'}</a
								>{:else}{row.complaint || 'Without a complaint'}{/if}
						</li>
					{/each}
				</ul>
			{/if}
			{#if shown.left_out.length}
				<Notice level="warn">
					{counted(shown.left_out.length, ['One thing', '# things'])} in it cannot be taken in:
					<ul class="list-disc pl-5">
						{#each shown.left_out as words, n (n)}<li>{words}</li>{/each}
					</ul>
				</Notice>
			{/if}
			{#if taken}
				<div><Button look="main" href="/vehicles/{taken.vehicle.id}">To the vehicle</Button></div>
			{:else if nothing}
				<p>All of it is here already. There is nothing to take in.</p>
			{:else}
				<MayNot need="decide">
					<div>
						<Button look="main" onclick={take} disabled={busy !== ''}
							>{busy === 'take' ? 'Taking it in …' : 'Take it in'}</Button
						>
					</div>
				</MayNot>
			{/if}
		</section>
	{/if}
</div>
