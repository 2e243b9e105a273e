<script lang="ts">
	import { Check, Headphones, X } from '@lucide/svelte';
	import { api, ask, wordsOf, type Schemas } from '$lib/api/client';
	import { bindKeys } from '$lib/keys.svelte';
	import { small } from '$lib/language';
	import { counted, rounded } from '$lib/numbers';
	import Button from '$lib/ui/Button.svelte';
	import Choice from '$lib/ui/Choice.svelte';
	import Notice from '$lib/ui/Notice.svelte';

	const HEADPHONES = 'headphones';
	let ears = $state.raw<Schemas['EarsOut'] | null>(null);
	let trial = $state.raw<Schemas['TrialOut'] | null>(null);
	let level = $state('1');
	let playing = $state('');
	let heard = $state.raw<string[]>([]);
	let wrong = $state('');
	let busy = $state(false);
	let player: HTMLAudioElement | undefined = $state();
	const pair = $derived(ears?.pairs.find((one) => one.key === trial?.pair));
	const all = $derived(Boolean(trial?.sounds.every((one) => heard.includes(one))));

	$effect(() => void load());
	async function load() {
		try {
			ears = await ask(api.GET('/api/training/pairs'));
		} catch (error) {
			wrong = wordsOf(error);
		}
	}
	async function begin(key: string) {
		if (busy) return;
		busy = true;
		wrong = '';
		try {
			const body = { id: crypto.randomUUID(), pair: key, level: Number(level) };
			trial = await ask(api.POST('/api/training/pairs', { body }));
			heard = [];
			scrollTo({ top: 0 });
		} catch (error) {
			wrong = wordsOf(error);
		} finally {
			busy = false;
		}
	}
	/** Play one of them from its beginning; a sound is made when it is first asked for. */
	async function play(which: string) {
		if (!trial || !player) return;
		player.src = `/api/training/pairs/${trial.id}/${which}.wav`;
		playing = which;
		try {
			await player.play();
			if (!heard.includes(which)) heard = [...heard, which];
		} catch {
			playing = '';
		}
	}
	async function say(said: string) {
		if (!trial || trial.told || busy || !all) return;
		busy = true;
		wrong = '';
		try {
			const path = { trial_id: trial.id };
			trial = await ask(
				api.POST('/api/training/pairs/{trial_id}/said', { params: { path }, body: { said } })
			);
			await load();
		} catch (error) {
			wrong = wordsOf(error);
		} finally {
			busy = false;
		}
	}
	const again = () => void (trial && begin(trial.pair));
	const name = (which: string) => (trial?.pair === HEADPHONES ? which : which.toUpperCase());
	$effect(() => {
		const now = trial;
		if (!now) return;
		return bindKeys([
			...now.sounds.map((one, n) => ({
				key: String(n + 1),
				label: `Play ${one.toUpperCase()}`,
				run: () => void play(one)
			})),
			...(now.told
				? [{ key: 'n', label: 'Once more', run: again }]
				: now.answers.map((one, n) => ({
						key: 'asd'[n] ?? '',
						label: `It is ${one.toUpperCase()}`,
						run: () => void say(one)
					})))
		]);
	});
</script>

<svelte:head><title>Listen · Hematite</title></svelte:head>

{#if wrong}<div class="pb-3"><Notice level="stop">{wrong}</Notice></div>{/if}
<audio bind:this={player} onended={() => (playing = '')} class="hidden"></audio>
{#if ears}
	<div class="grid gap-6 wide:grid-cols-2">
		<section class="grid content-start gap-3" aria-label="Pairs">
			<p class="text-faded">
				<a href="/practice" class="inline-flex min-h-12 items-center underline underline-offset-4">Practice</a
				>
			</p>
			<h1>One difference at a time</h1>
			<p>
				Two hubs, A and B, that differ in one thing; X is one of them, recorded once more. All are made
				equally loud. Which is it?
			</p>
			<Choice label="How hard" options={ears.levels} bind:value={level} row />
			<ul class="grid gap-2">
				{#each ears.pairs as one (one.key)}
					<li class="plate flex flex-wrap items-center gap-x-4 gap-y-1 py-1">
						<b class="grow basis-40">{one.label}</b>
						<span class="basis-48 text-faded">
							{#if one.of}{one.right} of {one.of}; by guessing as many in {rounded(one.by_chance * 100, 2)} of 100{:else}not
								met yet{/if}
						</span>
						<Button onclick={() => void begin(one.key)} disabled={busy}
							>Listen<span class="sr-only">to: {one.label}</span></Button
						>
					</li>
				{/each}
			</ul>
			<section class="grid gap-2 border-2 border-dashed border-faded p-3" aria-label="Headphones">
				<h2 class="flex items-center gap-2"><Headphones aria-hidden="true" />{ears.headphones_label}</h2>
				<p>
					{ears.headphones === null
						? 'Fine differences want headphones. Three tones, six times: which is the quietest?'
						: ears.headphones
							? 'You listen through headphones: each ear hears its own.'
							: 'It sounds like loudspeakers, or like one channel only. Fine differences will be lost.'}
				</p>
				<div class="flex flex-wrap items-center gap-3">
					<Button onclick={() => void begin(HEADPHONES)} disabled={busy}>Check it</Button>
					{#if ears.headphones_done}<span class="text-faded"
							>{ears.headphones_done} of {ears.headphones_of} done</span
						>{/if}
				</div>
			</section>
		</section>
		<section class={['grid content-start gap-4', trial && 'max-wide:order-first']} aria-label="The pair">
			{#if trial}
				<h2 class="text-2xl">{pair?.label ?? 'Which is the quietest?'}</h2>
				<div class="grid grid-cols-3 gap-2">
					{#each trial.sounds as one, n (one)}
						<button
							type="button"
							onclick={() => void play(one)}
							class="grid min-h-32 place-items-center rounded-sm border-2 {playing === one
								? 'border-blued bg-blued text-on-blued'
								: 'border-faded bg-plate'}"
						>
							<span class="text-5xl font-bold"><span class="sr-only">Play</span>{name(one)}</span>
							<span class="flex items-center gap-2"
								>{heard.includes(one) ? 'heard' : 'not heard yet'}<kbd
									class="hidden rounded-xs border border-current/50 px-1.5 font-mono sm:inline"
									aria-hidden="true">{n + 1}</kbd
								></span
							>
						</button>
					{/each}
				</div>
				{#if !trial.told}
					<h2>{trial.pair === HEADPHONES ? 'The quietest is' : 'X is'}</h2>
					<div class="flex flex-wrap gap-3">
						{#each trial.answers as one, n (one)}
							<Button
								look="main"
								class="min-h-16 min-w-24 text-xl"
								hotkey={'asd'[n]}
								onclick={() => void say(one)}
								disabled={!all || busy}>{name(one)}</Button
							>
						{/each}
					</div>
					{#if !all}<p class="text-faded">Hear each of them once; as often as you like.</p>{/if}
				{:else}
					<section
						class="plate grid gap-2 {trial.told.right ? 'border-l-blued' : 'border-l-oxide'}"
						aria-label="What it was"
					>
						<p class="flex items-center gap-3 text-2xl font-bold {trial.told.right ? '' : 'text-oxide'}">
							{#if trial.told.right}<Check class="size-8" aria-hidden="true" />Right{:else}<X
									class="size-8"
									aria-hidden="true"
								/>It was {name(trial.told.was)}{/if}
						</p>
						{#each Object.entries(trial.told.names) as [which, cause] (which)}
							<p><b class="font-mono">{which.toUpperCase()}</b> {small(cause)}</p>
						{/each}
						{#if trial.told.tell}<p>{trial.told.tell}</p>{/if}
						<p class="text-faded">Play them again, now that you know.</p>
					</section>
					<div><Button look="main" hotkey="n" onclick={again}>Once more</Button></div>
				{/if}
				{#if pair?.of}<p class="text-faded">
						{counted(pair.of, ['One try at this pair so far.', '# tries at this pair so far.'])}
					</p>{/if}
			{:else}
				<p class="plate">Choose a pair. No plot is shown here: this is for the ear alone.</p>
			{/if}
		</section>
	</div>
{/if}
