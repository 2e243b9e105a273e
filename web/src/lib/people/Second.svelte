<script lang="ts">
	import { api, ask, wordsOf, type Schemas } from '$lib/api/client';
	import { counted } from '$lib/numbers';
	import Button from '$lib/ui/Button.svelte';
	import Field from '$lib/ui/Field.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import { submits } from '$lib/ui/submits';

	/** A second factor turned on and off, by whom it is of. */
	let second = $state.raw<Schemas['SecondOut'] | null>(null);
	let begun = $state.raw<Schemas['BegunOut'] | null>(null);
	let words = $state.raw<string[]>([]);
	let number = $state('');
	let password = $state('');
	let going = $state(false);
	let wrong = $state('');

	async function trying(what: () => Promise<void>) {
		wrong = '';
		await what().catch((error: unknown) => (wrong = wordsOf(error)));
	}
	const load = () => trying(async () => void (second = await ask(api.GET('/api/second'))));
	void load();
	const begin = () => trying(async () => void (begun = await ask(api.POST('/api/second/begin'))));
	const confirm = () =>
		trying(async () => {
			words = (await ask(api.POST('/api/second', { body: { number } }))).words;
			[begun, number] = [null, ''];
			await load();
		});
	const off = () =>
		trying(async () => {
			second = await ask(api.POST('/api/second/off', { body: { password } }));
			[words, password, going] = [[], '', false];
		});
</script>

<section class="plate grid content-start justify-items-start gap-3 self-start" aria-label="Second factor">
	<h2>A second factor</h2>
	{#if second?.on}
		<p>
			Signing in asks for a number of your authenticator too. {counted(second.words_left, [
				'1 word is left',
				'# words are left'
			])} for when it is lost.
		</p>
		{#if going}
			<form class="grid gap-3" onsubmit={submits(off)}>
				<Field label="Your password" type="password" bind:value={password} autocomplete="current-password" />
				<Button type="submit" disabled={!password}>Ask for it no more</Button>
			</form>
		{:else}
			<Button look="quiet" onclick={() => (going = true)}>Take it off …</Button>
		{/if}
	{:else if begun}
		<p>Point your authenticator here, then say the number that it shows.</p>
		<img src={begun.qr} alt="The secret as a QR code" class="size-48 bg-white" />
		<p class="font-mono text-base break-all">{begun.secret}</p>
		<form class="grid gap-3" onsubmit={submits(confirm)}>
			<Field label="The number" bind:value={number} />
			<Button type="submit" look="main" disabled={!number}>Ask for it from now on</Button>
		</form>
	{:else if second}
		<p>A number of an authenticator on your phone, asked for beside the password.</p>
		<Button onclick={() => void begin()}>Turn it on</Button>
	{/if}
	{#if words.length}
		<Notice>
			Write these down now; they are shown this once. Each opens once, if the authenticator is lost.
			<span class="grid grid-cols-2 gap-x-4 pt-2 font-mono"
				>{#each words as word (word)}<span>{word}</span>{/each}</span
			>
		</Notice>
	{/if}
	{#if wrong}<Notice level="stop">{wrong}</Notice>{/if}
</section>
