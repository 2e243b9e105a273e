<script lang="ts">
	import { api, ask, Refused, wordsOf } from '$lib/api/client';
	import { session } from '$lib/session.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Field from '$lib/ui/Field.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import { submits } from '$lib/ui/submits';

	interface Props {
		/** Called once somebody is signed in. */
		onin?: () => void;
		/** In one row beside other work, where there is room. */
		slim?: boolean;
	}
	let { onin, slim = false }: Props = $props();
	let username = $state('');
	let password = $state('');
	/** Asked for once the password was right, of whom has an authenticator. */
	let number = $state('');
	let second = $state(false);
	let forgot = $state('');
	let wrong = $state('');
	let busy = $state(false);

	async function enter(name: string, word: string) {
		busy = true;
		wrong = '';
		try {
			await session.signIn(name, word, number);
			onin?.();
		} catch (error) {
			const asked = error instanceof Refused && error.code === 'second_number' && !second;
			if (asked) second = true;
			else wrong = wordsOf(error);
		} finally {
			busy = false;
		}
	}
	async function forgotten() {
		wrong = forgot = '';
		if (!username) {
			wrong = 'Say the name that you sign in with.';
			return;
		}
		try {
			await ask(api.GET('/api/session')); // the cookie that what is sent is checked by
			await ask(api.POST('/api/forgotten', { body: { username } }));
			forgot = 'If that name has an address here, a link is on its way to it. It holds for a day.';
		} catch (error) {
			wrong = wordsOf(error);
		}
	}
</script>

<form
	class={['plate grid gap-4', slim && 'items-end sm:grid-cols-[1fr_1fr_auto]']}
	onsubmit={submits(() => enter(username, password))}
>
	<Field label="Name" bind:value={username} autocomplete="username" />
	<Field label="Password" type="password" bind:value={password} autocomplete="current-password" />
	{#if second}
		<Field label="The number of your authenticator, or one of your words" bind:value={number} />
	{/if}
	<Button type="submit" look="main" disabled={busy}>Sign in</Button>
	{#if !slim}
		{#if session.mails}
			<Button look="quiet" onclick={() => void forgotten()}>I forgot the password</Button>
		{:else}
			<p class="text-faded">Forgot the password? An owner of your workshop makes a link for a new one.</p>
		{/if}
		{#if forgot}<Notice>{forgot}</Notice>{/if}
	{/if}
	{#if wrong}<div class="col-span-full"><Notice level="stop">{wrong}</Notice></div>{/if}
</form>
{#if session.setUp}
	<div class="plate grid gap-3">
		<p>Nobody can sign in yet.</p>
		<Button href="/set-up">Set up your workshop</Button>
	</div>
{/if}
{#if session.demo}
	{@const demo = session.demo}
	<div class={['plate grid gap-3', slim && 'items-center sm:grid-cols-[1fr_auto]']}>
		<p>
			This is a demo with made-up vehicles. Sign in as <b>{demo.username}</b> with <b>{demo.password}</b>.
		</p>
		<Button disabled={busy} onclick={() => enter(demo.username, demo.password)}>Enter the demo</Button>
	</div>
{/if}
