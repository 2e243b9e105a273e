<script lang="ts">
	import { wordsOf } from '$lib/api/client';
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
	let wrong = $state('');
	let busy = $state(false);

	async function enter(name: string, word: string) {
		busy = true;
		wrong = '';
		try {
			await session.signIn(name, word);
			onin?.();
		} catch (error) {
			wrong = wordsOf(error);
		} finally {
			busy = false;
		}
	}
</script>

<form
	class={['plate grid gap-4', slim && 'items-end sm:grid-cols-[1fr_1fr_auto]']}
	onsubmit={submits(() => enter(username, password))}
>
	<Field label="Name" bind:value={username} autocomplete="username" />
	<Field label="Password" type="password" bind:value={password} autocomplete="current-password" />
	<Button type="submit" look="main" disabled={busy}>Sign in</Button>
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
