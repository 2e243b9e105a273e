<script lang="ts">
	import { CalendarPlus } from '@lucide/svelte';
	import { api, ask, wordsOf, type Schemas } from '$lib/api/client';
	import { moment } from '$lib/dates';
	import DueRow from '$lib/due/DueRow.svelte';
	import { byWeek } from '$lib/due/weeks';
	import { counted } from '$lib/numbers';
	import Button from '$lib/ui/Button.svelte';
	import { session } from '$lib/session.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Turner from '$lib/ui/Turner.svelte';

	let due = $state.raw<Schemas['DueListOut'] | null>(null);
	let feed = $state.raw<Schemas['FeedOut'] | null>(null);
	let page = $state(1);
	let wrong = $state('');
	let copied = $state(false);
	const weeks = $derived(byWeek(due?.rows ?? [], new Date()));

	$effect(() => void load(page));
	async function load(number: number) {
		try {
			due = await ask(api.GET('/api/due', { params: { query: { page: number, all: true } } }));
			wrong = '';
		} catch (error) {
			wrong = wordsOf(error);
		}
	}
	async function address(renew: boolean) {
		try {
			feed = await ask(renew ? api.POST('/api/calendar/renew', {}) : api.GET('/api/calendar', {}));
			copied = false;
		} catch (error) {
			wrong = wordsOf(error);
		}
	}
	async function copy() {
		if (feed) await navigator.clipboard?.writeText(feed.address);
		copied = true;
	}
</script>

<svelte:head><title>Coming back · Hematite</title></svelte:head>

{#if wrong}<Notice level="stop">{wrong}</Notice>{/if}
{#if due}
	<div class="grid gap-6 wide:grid-cols-[3fr_2fr]">
		<section class="grid content-start gap-3" aria-label="To be looked at again">
			<h1>{counted(due.count, ['One look to come', '# looks to come'])}</h1>
			{#each weeks as week (week.label)}
				<h2>{week.label} <span class="text-faded">{week.rows.length}</span></h2>
				<ul class="grid gap-2" aria-label={week.label}>
					{#each week.rows as row (row.id)}<DueRow {row} />{/each}
				</ul>
			{:else}
				<p class="plate">
					Nothing is to be looked at again. Every case that is closed plans what comes after it.
				</p>
			{/each}
			<Turner bind:page pages={due.pages} of="rechecks" />
		</section>
		<section class="plate grid content-start gap-3 self-start" aria-label="Calendar">
			<h2>In your calendar</h2>
			<p>
				A calendar that is given this address shows what is due, and moves it as odometers are read. Whoever
				knows the address sees it, so it is a secret of the workshop.
			</p>
			{#if feed}
				<p class="font-mono text-base break-all">{feed.address}</p>
				<p class="text-faded">Made by {feed.person}, {moment(feed.made_at)}.</p>
				<div class="flex flex-wrap gap-2">
					<Button look="main" onclick={() => void copy()}>{copied ? 'Copied' : 'Copy'}</Button>
					{#if !session.mayNot('rule')}<Button onclick={() => void address(true)}
							>A new address; this one ends</Button
						>{/if}
				</div>
			{:else}
				<div class="flex flex-wrap gap-2">
					<Button look="main" onclick={() => void address(false)}
						><CalendarPlus aria-hidden="true" />Show the address</Button
					>
				</div>
			{/if}
			<div><Button href="/api/calendar.ics" look="quiet">Once, as a file</Button></div>
		</section>
	</div>
{/if}
