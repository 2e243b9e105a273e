<script lang="ts">
	import '../app.css';
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { CloudOff, Flashlight, Keyboard, LogOut, Sun, UserRound, Wrench } from '@lucide/svelte';
	import type { Snippet } from 'svelte';
	import { bindKeys, press } from '$lib/keys.svelte';
	import { connection } from '$lib/connection.svelte';
	import { moment } from '$lib/dates';
	import { outbox } from '$lib/outbox/outbox.svelte';
	import MayNot from '$lib/people/MayNot.svelte';
	import OutboxTray from '$lib/outbox/OutboxTray.svelte';
	import { session } from '$lib/session.svelte';
	import { recorder } from '$lib/sound/capture.svelte';
	import CutOff from '$lib/sound/CutOff.svelte';
	import RecordingBar from '$lib/sound/RecordingBar.svelte';
	import Button from '$lib/ui/Button.svelte';
	import KeyHelp from '$lib/ui/KeyHelp.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import UnitSwitch from '$lib/ui/UnitSwitch.svelte';

	let { children }: { children: Snippet } = $props();
	/** How often a server that was not there when the page opened is asked again. */
	const AGAIN_MS = 2000;
	/** What is open to those who are not signed in. */
	const OPEN = ['/sign-in', '/set-up', '/join', '/reset', '/phone'];
	let help = $state(false);
	void session.load();

	$effect(() => {
		if (session.state === 'in' && session.person) void outbox.open(session.person.id);
		if (session.state !== 'out') return;
		outbox.close();
		// Whoever signs in goes on where the address says.
		const { pathname, search } = page.url;
		if (!OPEN.includes(pathname)) void goto(`/sign-in?to=${encodeURIComponent(pathname + search)}`);
	});
	$effect(() => {
		if (session.state !== 'unreachable') return;
		let timer: ReturnType<typeof setTimeout> | undefined;
		let wanted = true;
		function later() {
			if (wanted) timer = setTimeout(() => void session.load().finally(later), AGAIN_MS);
		}
		later(); // one question at a time: a server that hangs is not asked ever more
		return () => {
			wanted = false;
			clearTimeout(timer);
		};
	});
	$effect(() =>
		bindKeys([
			{ key: '?', label: 'Show these keys', run: () => (help = true) },
			{ key: 'y', label: 'The yard', run: () => void goto('/') },
			{ key: 'z', label: 'The workshop’s ways', run: () => void goto('/policy') },
			{ key: 'i', label: 'Daylight or under the car', run: () => void session.toggleLight() }
		])
	);
	/** What still records is kept first, in the name of whoever made it. */
	async function signOut() {
		await recorder.running?.stop();
		await session.signOut();
	}
	const lightWords = $derived(session.light === 'day' ? 'Under the car' : 'Daylight');
</script>

<svelte:window onkeydown={press} />

<header class="bg-[#22292d] text-[#eef2f4] print:hidden">
	<div class="mx-auto flex max-w-[78rem] items-center gap-x-2 px-3 max-sm:h-[47px] sm:py-1">
		<a href="/" class="flex min-h-12 items-center gap-2 pr-3 text-xl font-bold max-sm:min-h-[48px]">
			<img src="/icon.svg" alt="" class="size-8" /><span class="max-sm:sr-only">Hematite</span>
		</a>
		{#if session.person}<span class="hidden grow text-[#c5cfd4] sm:block">{session.person.workshop}</span
			>{/if}
		<div class="ml-auto flex items-center">
			{#if outbox.entries.length + outbox.keeping}
				<span class="flex items-center gap-1 px-2" role="status"
					><CloudOff aria-hidden="true" />{outbox.entries.length + outbox.keeping} waiting</span
				>
			{/if}
			<button
				type="button"
				class="grid size-12 place-items-center max-sm:size-[48px]"
				aria-label="{lightWords} (key i)"
				title="{lightWords} (i)"
				onclick={() => session.toggleLight()}
			>
				{#if session.light === 'day'}<Flashlight aria-hidden="true" />{:else}<Sun aria-hidden="true" />{/if}
			</button>
			{#if session.person}
				<a
					href="/policy"
					class="grid size-12 place-items-center max-sm:size-[48px]"
					aria-label="The workshop’s ways (key z)"
					title="The workshop’s ways (z)"><Wrench aria-hidden="true" /></a
				>
				<UnitSwitch />
				<button
					type="button"
					class="grid size-12 place-items-center max-sm:size-[48px]"
					aria-label="Keys (key ?)"
					title="Keys (?)"
					onclick={() => (help = true)}><Keyboard aria-hidden="true" /></button
				>
				<a
					href="/me"
					class="grid size-12 place-items-center max-sm:size-[48px]"
					aria-label="You and the workshop’s people"
					title="You and the workshop’s people"><UserRound aria-hidden="true" /></a
				>
				<button
					type="button"
					class="grid size-12 place-items-center max-sm:size-[48px]"
					aria-label="Sign out {session.person.name}"
					title="Sign out {session.person.name}"
					onclick={signOut}><LogOut aria-hidden="true" /></button
				>
			{/if}
		</div>
	</div>
</header>

<main class="mx-auto max-w-[78rem] px-3 py-3 sm:py-4">
	{#if session.state === 'unreachable'}
		<Notice level="stop">
			The server cannot be reached. Nothing is lost; what you entered is kept on this device.
			<Button onclick={() => session.load()}>Try again</Button>
		</Notice>
	{:else if session.state === 'in' || (session.state === 'out' && OPEN.includes(page.url.pathname))}
		{#if session.state === 'in'}
			{#if connection.since}
				<div class="pb-3">
					<Notice level="warn"
						>The server cannot be reached. This is what this device saw last, {moment(connection.since)}. Work
						on: what you enter is kept here and sent when it is back.</Notice
					>
				</div>
			{/if}
			<OutboxTray /><CutOff />
			{#if session.mayNot('work')}<div class="pb-3"><MayNot need="work" /></div>{/if}
		{/if}
		{@render children()}
	{/if}
</main>

{#if session.state === 'in'}<RecordingBar />{/if}

<KeyHelp bind:open={help} />
