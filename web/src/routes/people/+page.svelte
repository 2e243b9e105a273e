<script lang="ts">
	import { api, ask, wordsOf, type Schemas } from '$lib/api/client';
	import { moment } from '$lib/dates';
	import LanguageChoice from '$lib/people/LanguageChoice.svelte';
	import Link from '$lib/people/Link.svelte';
	import MayNot from '$lib/people/MayNot.svelte';
	import { session } from '$lib/session.svelte';
	import Button from '$lib/ui/Button.svelte';
	import ForGood from '$lib/ui/ForGood.svelte';
	import Field from '$lib/ui/Field.svelte';
	import Choice from '$lib/ui/Choice.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Pick from '$lib/ui/Pick.svelte';
	import { submits } from '$lib/ui/submits';

	type Role = Schemas['InviteIn']['role'];
	type Person = Schemas['StaffOut'];
	let shop = $state.raw<Schemas['PeopleOut'] | null>(null);
	let link = $state.raw<{ of: number; link: Schemas['LinkOut'] } | null>(null);
	let mail = $state('');
	let invited = $state<string>('mechanic');
	let wrong = $state('');
	const rules = $derived(!session.mayNot('rule'));
	const roles = $derived(shop?.roles.map((role) => ({ key: role.key, words: role.label })) ?? []);

	async function trying(what: () => Promise<unknown>) {
		wrong = '';
		await what().catch((error: unknown) => (wrong = wordsOf(error)));
	}
	void trying(load);
	async function load() {
		shop = await ask(api.GET('/api/people'));
	}
	const change = (person: Person, now: Partial<Person>) =>
		trying(async () => {
			const params = { path: { person_id: person.id } };
			const { role, active } = { ...person, ...now };
			const body = { role: role as Role, active };
			shop = await ask(api.PUT('/api/people/{person_id}', { params, body })).catch(async (error) => {
				await load(); // what is refused is shown as it was
				throw error;
			});
			if (person.me) await session.load();
		});
	const invite = () =>
		trying(async () => {
			const body = { role: invited as Role, mail: mail.trim() };
			link = { of: 0, link: await ask(api.POST('/api/people/invitations', { body })) };
		});
	const reset = (person: Person) =>
		trying(async () => {
			const params = { path: { person_id: person.id } };
			link = {
				of: person.id,
				link: await ask(api.POST('/api/people/{person_id}/reset', { params }))
			};
		});
	async function erase(person: Person) {
		await ask(api.POST('/api/people/{person_id}/erase', { params: { path: { person_id: person.id } } }));
		await load();
	}
	const secondOff = (person: Person) =>
		trying(async () => {
			const params = { path: { person_id: person.id } };
			shop = await ask(api.POST('/api/people/{person_id}/second/off', { params }));
		});
	const label = (key: string) => shop?.roles.find((role) => role.key === key)?.label ?? key;
</script>

<svelte:head><title>People · Hematite</title></svelte:head>

<h1 class="pb-3">The people of {session.person?.workshop}</h1>
{#if wrong}<div class="pb-3"><Notice level="stop">{wrong}</Notice></div>{/if}
{#if shop}
	<div class="grid gap-6 wide:grid-cols-[3fr_2fr]">
		<ul class="grid content-start gap-2" aria-label="People">
			{#each shop.people as person (person.id)}
				<li class="plate grid gap-2 {person.active ? '' : 'text-faded'}" aria-label={person.name}>
					<div class="flex flex-wrap items-center justify-between gap-x-4">
						<span
							><b>{person.name}</b>{person.me ? ' (you)' : ''}
							<span class="text-faded">signs in as {person.username}</span></span
						>
						<span>{person.active ? label(person.role) : 'Has left'}</span>
					</div>
					{#if person.seen_at}<p class="text-faded">Last here {moment(person.seen_at)}.</p>{/if}
					{#if rules}
						<div class="flex flex-wrap items-end gap-2">
							{#if person.active}
								<div class="min-w-48">
									<Pick
										label="Role"
										options={roles}
										bind:value={() => person.role, (role) => void change(person, { role })}
									/>
								</div>
								<Button onclick={() => void reset(person)}>A new password by a link</Button>
								{#if person.second}
									<Button onclick={() => void secondOff(person)}>Take the second factor off</Button>
								{/if}
								<Button look="quiet" onclick={() => void change(person, { active: false })}>Has left</Button>
							{:else}
								<Button onclick={() => void change(person, { active: true })}>Is back</Button>
								<ForGood
									label="Erase the name"
									words="{person.name} can never sign in again. What they entered stays, by “Somebody who left”."
									act={() => erase(person)}
								/>
							{/if}
						</div>
						{#if link?.of === person.id}<Link link={link.link} onclose={() => (link = null)} />{/if}
					{/if}
				</li>
			{/each}
		</ul>
		<div class="grid content-start gap-6">
			<section class="plate grid content-start gap-3 self-start" aria-label="Invite">
				<h2>Somebody new</h2>
				<MayNot need="rule">
					<form class="grid gap-3" onsubmit={submits(invite)}>
						<Choice
							label="As what"
							options={shop.roles.map((role) => ({
								key: role.key,
								words: role.label,
								hint: role.words
							}))}
							bind:value={invited}
						/>
						{#if session.mails}
							<Field label="Where the link is sent as well, if anywhere" bind:value={mail} />
						{/if}
						<Button type="submit" look="main">Make a link</Button>
					</form>
					{#if link?.of === 0}<Link link={link.link} onclose={() => (link = null)} />{/if}
				</MayNot>
			</section>
			{#if rules && session.person}
				<LanguageChoice
					label="The workshop’s language"
					value={session.person.workshop_language}
					unchosen="As each device asks"
					choose={(language) => session.chooseForAll(language)}
				/>
			{/if}
		</div>
	</div>
{/if}
