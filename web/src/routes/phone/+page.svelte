<script lang="ts">
	import { Download, Smartphone } from '@lucide/svelte';
	import { api, ask, wordsOf, type Schemas } from '$lib/api/client';
	import Button from '$lib/ui/Button.svelte';
	import Notice from '$lib/ui/Notice.svelte';

	/** How a phone comes to this server: read on a screen that is there already, and on the phone itself. */
	let at = $state.raw<Schemas['DoorstepOut'] | null>(null);
	let wrong = $state('');
	const plain = location.protocol === 'http:' && location.hostname !== 'localhost';
	const own = $derived(at !== null && ['localhost', '127.0.0.1'].includes(new URL(at.address).hostname));
	void load();
	async function load() {
		wrong = '';
		try {
			at = await ask(api.GET('/api/phone'));
		} catch (error) {
			wrong = wordsOf(error);
		}
	}
	/** The menus of phones and computers as they are mostly named; makers change the words. */
	const WAYS = [
		{
			of: 'A phone whose settings have “Security” or “Privacy”',
			steps: [
				'Open the settings and search them for “certificate”.',
				'Choose “CA certificate” (install from storage), read the warning, and pick the file.'
			]
		},
		{
			of: 'A phone that says “Profile downloaded”',
			steps: [
				'Open the settings, tap “Profile downloaded”, and install it.',
				'Then General → About → Certificate Trust Settings: switch it on. Without this second step it is not trusted.'
			]
		},
		{
			of: 'A computer',
			steps: [
				'Open the file, and put it among the trusted root authorities.',
				'Some browsers keep a list of their own: Settings → Privacy and security → Certificates → Authorities → Import.'
			]
		}
	];
</script>

<svelte:head><title>A phone at the car · Hematite</title></svelte:head>

<div class="mx-auto grid max-w-3xl gap-4">
	<h1>A phone at the car</h1>
	{#if wrong}<Notice level="stop">{wrong} <Button look="quiet" onclick={load}>Try again</Button></Notice>{/if}
	{#if at}
		{#if own}
			<Notice
				>This server listens on this computer only. For phones it is started with <code>make serve</code>; see
				docs/running.md.</Notice
			>
		{:else if !plain}
			<section class="plate flex flex-wrap items-center gap-4" aria-label="With the phone">
				<img src={at.qr} alt="Where to begin, as a QR code" class="size-40 bg-white" />
				<div class="grid min-w-0 flex-1 basis-60 gap-1">
					<p>With the phone in the workshop’s network, point its camera here.</p>
					<p class="font-mono text-base break-all">{at.address}</p>
					{#if at.fingerprint}<p class="text-faded">
							It leads to this page first: the phone has to trust this server once.
						</p>{/if}
				</div>
			</section>
		{/if}
		{#if at.fingerprint}
			<p>
				Browsers give the microphone only to pages that came by a line nobody can listen in on. This server
				makes its own certificates; each phone and computer trusts their authority once.
			</p>
			<ol class="grid gap-4">
				<li class="plate grid justify-items-start gap-2">
					<h2>1. Take the authority’s certificate</h2>
					<Button look="main" href="/api/phone/authority.crt" download
						><Download aria-hidden="true" />Take it</Button
					>
					<p class="text-faded">
						Its SHA-256 fingerprint, printed as well where the server was started. If they differ, do not
						trust it; somebody stands between.
					</p>
					<p class="font-mono text-sm break-all">{at.fingerprint}</p>
				</li>
				<li class="plate grid gap-3">
					<h2>2. Trust it</h2>
					{#each WAYS as way (way.of)}
						<div class="grid gap-1">
							<h3>{way.of}</h3>
							<ul class="list-disc pl-5">
								{#each way.steps as step (step)}<li>{step}</li>{/each}
							</ul>
						</div>
					{/each}
					<p class="text-faded">
						It can speak for names and addresses inside a house only, never for a bank. Whoever leaves takes
						it off their phone in the same place.
					</p>
				</li>
				<li class="plate grid justify-items-start gap-2">
					<h2>3. Open Hematite</h2>
					<Button look="main" href={at.address}><Smartphone aria-hidden="true" />{at.address}</Button>
					<p class="text-faded">
						Keep to this one address: what a phone has not sent yet lies under the address where it was
						entered.
						{#if at.others.length}Only if the phone cannot find the name: {at.others.join(' or ')}.{/if}
					</p>
				</li>
			</ol>
		{/if}
	{/if}
</div>
