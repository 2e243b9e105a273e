<script lang="ts">
	import { Archive, LogOut, Smartphone, Users } from '@lucide/svelte';
	import { api, ask, Refused, wordsOf, type Schemas } from '$lib/api/client';
	import { moment } from '$lib/dates';
	import { session } from '$lib/session.svelte';
	import LanguageChoice from '$lib/people/LanguageChoice.svelte';
	import Second from '$lib/people/Second.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Field from '$lib/ui/Field.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import { submits } from '$lib/ui/submits';

	let devices = $state.raw<Schemas['DeviceOut'][]>([]);
	let [old, fresh] = $state(['', '']);
	let wrong = $state('');
	let weak = $state('');
	let changed = $state(false);
	let mail = $state(session.person?.mail ?? '');
	let wrongMail = $state('');
	let keptMail = $state(false);

	void load();
	async function load() {
		try {
			devices = await ask(api.GET('/api/devices'));
		} catch (error) {
			wrong = wordsOf(error);
		}
	}
	async function signOut(device_id: number) {
		try {
			await ask(api.DELETE('/api/devices/{device_id}', { params: { path: { device_id } } }));
		} catch (error) {
			wrong = wordsOf(error);
		}
		await load();
	}
	async function keepMail() {
		[wrongMail, keptMail] = ['', false];
		try {
			await session.enter(await ask(api.PUT('/api/mail', { body: { mail: mail.trim() } })));
			keptMail = true;
		} catch (error) {
			wrongMail = error instanceof Refused ? 'Say it as name@place, or nothing.' : wordsOf(error);
		}
	}
	async function change() {
		weak = '';
		changed = false;
		try {
			await ask(api.POST('/api/password', { body: { old, new: fresh } }));
			[old, fresh, changed] = ['', '', true];
			await load();
		} catch (error) {
			weak = wordsOf(error);
		}
	}
</script>

<svelte:head><title>You · Hematite</title></svelte:head>

{#if session.person}
	<div class="flex flex-wrap items-center justify-between gap-3 pb-3">
		<h1>{session.person.name}</h1>
		<div class="flex flex-wrap gap-2">
			<Button href="/phone"><Smartphone aria-hidden="true" />Bring a phone</Button>
			{#if !session.mayNot('rule')}<Button href="/keeping"><Archive aria-hidden="true" />What is kept</Button
				>{/if}
			<Button href="/people"><Users aria-hidden="true" />The people of {session.person.workshop}</Button>
		</div>
	</div>
	{#if wrong}<Notice level="stop">{wrong} <Button look="quiet" onclick={load}>Try again</Button></Notice>{/if}
	<div class="grid gap-6 wide:grid-cols-2">
		<section class="grid content-start gap-2" aria-label="Where you are signed in">
			<h2>Where you are signed in</h2>
			<ul class="grid gap-2">
				{#each devices as device (device.id)}
					<li class="plate flex flex-wrap items-center justify-between gap-3">
						<span class="min-w-0"
							><span class="break-words">{device.agent || 'A device that does not name itself'}</span>
							<span class="block text-faded"
								>{device.here ? 'here, ' : ''}since {moment(device.since)}{device.here
									? ''
									: `, last seen ${moment(device.seen_at)}`}</span
							></span
						>
						{#if !device.here}
							<Button onclick={() => void signOut(device.id)}><LogOut aria-hidden="true" />Sign it out</Button
							>
						{/if}
					</li>
				{:else}
					<li class="plate">Nowhere that was written down.</li>
				{/each}
			</ul>
		</section>
		<div class="grid content-start gap-6">
			<form class="plate grid content-start gap-3 self-start" onsubmit={submits(change)}>
				<h2>Another password</h2>
				<Field label="The old one" type="password" bind:value={old} autocomplete="current-password" />
				<Field
					label="The new one, eight characters or more"
					type="password"
					bind:value={fresh}
					autocomplete="new-password"
				/>
				{#if weak}<Notice level="stop">{weak}</Notice>{/if}
				{#if changed}<Notice>Changed. Every other device is signed out.</Notice>{/if}
				<Button type="submit" look="main" disabled={!old || !fresh}>Change it</Button>
			</form>
			<LanguageChoice
				label="Your language"
				value={session.person.language}
				unchosen="As the workshop"
				choose={(language) => session.choose(language)}
			/>
			<Second />
			{#if session.mails}
				<form class="plate grid content-start gap-3 self-start" onsubmit={submits(keepMail)}>
					<h2>Your address</h2>
					<Field label="Where a link for a new password is sent" bind:value={mail} wrong={wrongMail} />
					{#if keptMail}<Notice>Kept.</Notice>{/if}
					<Button type="submit">Keep it</Button>
				</form>
			{/if}
		</div>
	</div>
{/if}
