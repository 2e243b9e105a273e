<script lang="ts">
	import { goto } from '$app/navigation';
	import { api, ask, wordsOf, Refused, type Schemas } from '$lib/api/client';
	import { language, small } from '$lib/language';
	import Languages from '$lib/people/Languages.svelte';
	import { session } from '$lib/session.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Field from '$lib/ui/Field.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import { submits } from '$lib/ui/submits';

	/** A way in by a link: what it opens is looked at before anything is typed. */
	let { kind, heading }: { kind: 'set_up' | 'join' | 'reset'; heading: string } = $props();
	let secret = $state(location.hash.slice(1));
	let opens = $state<Schemas['InvitationOut'] | null>(null);
	let [workshop, username, name, password] = $state(['', '', '', '']);
	let wrong = $state('');
	let fields = $state<Record<string, string>>({});
	let busy = $state(false);

	/** What is wrong is said; what was typed stays. */
	async function trying(what: () => Promise<void>) {
		busy = true;
		wrong = '';
		fields = {};
		try {
			await what();
		} catch (error) {
			wrong = wordsOf(error);
			if (error instanceof Refused) fields = error.fields;
		} finally {
			busy = false;
		}
	}
	const look = () =>
		trying(async () => {
			await ask(api.GET('/api/session')); // the cookie that what is sent is checked by
			const found = await ask(api.POST('/api/invitations/look', { body: { secret } }));
			if (found.kind === kind) opens = found;
			else wrong = 'This link is for something else.';
		});
	const enter = () =>
		trying(async () => {
			const body = { secret, username, name, password };
			const came =
				kind === 'set_up'
					? api.POST('/api/set-up', { body: { ...body, workshop, language } })
					: kind === 'join'
						? api.POST('/api/join', { body })
						: api.POST('/api/reset', { body: { secret, password } });
			await session.enter(await ask(came));
			await goto('/');
		});
	if (location.hash) void look();
</script>

<svelte:head><title>{heading} · Hematite</title></svelte:head>

<div class="mx-auto grid max-w-md gap-5 pt-6">
	<Languages />
	<h1>{heading}</h1>
	{#if opens}
		<form class="plate grid gap-4" onsubmit={submits(enter)}>
			{#if opens.kind === 'set_up'}
				<p>You become its owner, and invite the others.</p>
				<Field label="What the workshop is called" bind:value={workshop} wrong={fields.workshop} />
			{:else if opens.kind === 'join'}
				<p>You are invited to <b>{opens.workshop}</b> as {small(opens.role)}.</p>
			{:else}
				<p>A new password for <b>{opens.name}</b> of {opens.workshop}. It signs out every other device.</p>
			{/if}
			{#if opens.kind !== 'reset'}
				<Field label="Your name, as others read it" bind:value={name} wrong={fields.name} />
				<Field
					label="A name to sign in with, without spaces"
					bind:value={username}
					autocomplete="username"
					wrong={fields.username && 'Letters, digits and . @ + - _ only.'}
				/>
			{/if}
			<Field
				label="A password, eight characters or more"
				type="password"
				bind:value={password}
				autocomplete="new-password"
				wrong={fields.password}
			/>
			{#if wrong}<Notice level="stop">{wrong}</Notice>{/if}
			<Button type="submit" look="main" disabled={busy}>{kind === 'reset' ? 'Keep it' : 'Come in'}</Button>
		</form>
	{:else}
		<form class="plate grid gap-4" onsubmit={submits(look)}>
			{#if kind === 'set_up'}
				<p>The code was printed where the server was started; it opens this once.</p>
			{/if}
			<Field label="The code" bind:value={secret} />
			{#if wrong}<Notice level="stop">{wrong}</Notice>{/if}
			<Button type="submit" look="main" disabled={busy || !secret}>Go on</Button>
		</form>
	{/if}
</div>
