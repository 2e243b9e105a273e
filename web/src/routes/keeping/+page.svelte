<script lang="ts">
	import { Download } from '@lucide/svelte';
	import { api, ask, notDone, sendForm, wordsOf, type Schemas } from '$lib/api/client';
	import { moment } from '$lib/dates';
	import { counted } from '$lib/numbers';
	import MayNot from '$lib/people/MayNot.svelte';
	import { session } from '$lib/session.svelte';
	import Button from '$lib/ui/Button.svelte';
	import FilePick from '$lib/ui/FilePick.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Pick from '$lib/ui/Pick.svelte';

	const YEARS = [1, 2, 3, 5, 7, 10, 15];
	const HOUR = 3_600_000;
	let kept = $state.raw<Schemas['KeepingOut'] | null>(null);
	let arrived = $state.raw<Schemas['ArrivedOut'] | null>(null);
	let wrong = $state('');
	let busy = $state(false);

	const rules = $derived(!session.mayNot('rule'));
	$effect(() => {
		if (rules) void load();
	});
	async function load() {
		wrong = '';
		try {
			kept = await ask(api.GET('/api/keeping'));
		} catch (error) {
			wrong = wordsOf(error);
		}
	}
	async function keepFor(years: string) {
		try {
			kept = await ask(api.PUT('/api/keeping', { body: { sounds_years: years ? Number(years) : null } }));
		} catch (error) {
			wrong = wordsOf(error);
		}
	}
	async function hearAgain() {
		try {
			kept = await ask(api.POST('/api/keeping/hear-again'));
		} catch (error) {
			wrong = wordsOf(error);
		}
	}
	async function takeIn(file: File) {
		const form = new FormData();
		form.set('archive', file);
		busy = true;
		wrong = '';
		try {
			arrived = await sendForm<Schemas['ArrivedOut']>('/api/workshop/archive', form);
			await load();
		} catch (error) {
			wrong = notDone(error, 'taken in');
		} finally {
			busy = false;
		}
	}
	/** A backup that has not gone well for two rounds is late. */
	const late = $derived.by(() => {
		const backup = kept?.backup;
		if (!backup?.where) return false;
		const since = backup.done_at ? Date.now() - Date.parse(backup.done_at) : Infinity;
		return since > 2 * backup.every_h * HOUR;
	});
	const years = $derived([
		{ key: '', words: 'for ever' },
		...YEARS.map((n) => ({ key: String(n), words: n === 1 ? 'a year' : `${n} years` }))
	]);
</script>

<svelte:head><title>What is kept · Hematite</title></svelte:head>

<h1 class="pb-3">What is kept</h1>
{#if wrong}<div class="pb-3">
		<Notice level="stop">{wrong} <Button look="quiet" onclick={load}>Try again</Button></Notice>
	</div>{/if}
<MayNot need="rule">
	{#if kept}
		<div class="grid gap-6 wide:grid-cols-2">
			<div class="grid content-start gap-4">
				<section class="plate grid gap-2" aria-label="Backups">
					<h2>Backups</h2>
					{#if !kept.backup.where}
						<Notice level="warn"
							>None are made. If the disk of this server fails, everything is gone. Whoever runs the server
							sets HEMATITE_BACKUP to a folder on another disk.</Notice
						>
					{:else}
						<p>
							{kept.backup.done_at
								? `The last one that was written and read back whole: ${moment(kept.backup.done_at)}.`
								: 'None was made yet.'}
						</p>
						<p class="text-faded">
							Every {kept.backup.every_h} hours into
							<span class="font-mono break-all">{kept.backup.where}</span>,
							{kept.backup.sealed ? 'encrypted' : 'not encrypted: whoever has that disk reads it'}.
						</p>
						{#if kept.backup.failed}<Notice level="stop">The last try failed: {kept.backup.failed}</Notice
							>{/if}
						{#if late && !kept.backup.failed && kept.backup.done_at}<Notice level="warn"
								>It is late. Whoever runs the server should look why.</Notice
							>{/if}
					{/if}
				</section>
				<section class="plate grid gap-2" aria-label="Sounds">
					<h2>Sounds</h2>
					<p>
						{counted(kept.sounds, ['1 sound', '# sounds'])} kept{kept.sounds_ended
							? `, ${kept.sounds_ended} taken away by the rule`
							: ''}. Those of open cases always stay.
					</p>
					<div class="max-w-72">
						<Pick
							label="Of closed cases they are kept"
							options={years}
							bind:value={() => String(kept?.sounds_years ?? ''), (said) => void keepFor(said)}
						/>
					</div>
					<p class="text-faded">
						Counted from the closing. What was heard in them, and all else of the case, stays; they can no
						longer be played, or heard again by a later version.
					</p>
					{#if kept.heard_by_others}
						<Notice>
							{counted(kept.heard_by_others, ['1 recording was', '# recordings were'])} heard by another version,
							which may hear differently. What was decided stays as it was decided.
							{#if kept.hearing_again}They are heard again in the background.{:else}
								<Button onclick={() => void hearAgain()}>Hear them again in the background</Button>
							{/if}
						</Notice>
					{/if}
				</section>
				<section class="plate grid justify-items-start gap-2" aria-label="The whole workshop">
					<h2>The whole workshop</h2>
					<p>
						Its ways and every vehicle with all its cases, sounds and photographs, as an open archive: into
						another Hematite, or to be read without one.
					</p>
					<Button href="/api/workshop/archive" download
						><Download aria-hidden="true" />Take it all along</Button
					>
					<FilePick what="an archive to take in (.zip)" accept=".zip" disabled={busy} onpick={takeIn} />
					{#if busy}<p role="status">Taking it in …</p>{/if}
					{#if arrived}
						<div role="status" class="grid gap-1">
							<p>
								From {arrived.workshop || 'a workshop without a name'}: {counted(arrived.vehicles, [
									'1 vehicle',
									'# vehicles'
								])}, {arrived.new_vehicles} of them new, with {counted(arrived.cases, [
									'1 new case',
									'# new cases'
								])}.
							</p>
							{#if arrived.left_out.length}
								<details>
									<summary class="min-h-12 cursor-pointer content-center"
										>Left out: {arrived.left_out.length}</summary
									>
									<ul class="list-disc pl-5">
										{#each arrived.left_out as words, n (n)}<li>{words}</li>{/each}
									</ul>
								</details>
							{/if}
						</div>
					{/if}
				</section>
			</div>
			<section class="grid content-start gap-2" aria-label="Who changed what">
				<div class="flex flex-wrap items-center justify-between gap-2">
					<h2>Who changed what</h2>
					<Button href="/api/keeping/traces.csv" download
						><Download aria-hidden="true" />All {kept.traces_in_all} as CSV</Button
					>
				</div>
				<ul class="plate">
					{#each kept.traces as trace, n (n)}
						<li class="border-groove py-2 not-last:border-b">
							<b>{trace.what}</b>{trace.about ? `: ${trace.about}` : ''}{trace.details.length
								? ` (${trace.details.join(', ')})`
								: ''}
							<span class="block text-faded">{trace.person}, {moment(trace.at)}</span>
						</li>
					{:else}
						<li>Nothing was written down yet.</li>
					{/each}
				</ul>
				<p class="text-faded">
					Vehicles, the workshop’s ways, people, what was deleted and what was taken along. Version {kept.version}.
				</p>
			</section>
		</div>
	{/if}
</MayNot>
