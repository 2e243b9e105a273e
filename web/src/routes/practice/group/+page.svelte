<script lang="ts">
	import { Printer } from '@lucide/svelte';
	import { api, ask, wordsOf, type Schemas } from '$lib/api/client';
	import { counted, decimal } from '$lib/numbers';
	import MayNot from '$lib/people/MayNot.svelte';
	import { session } from '$lib/session.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Pick from '$lib/ui/Pick.svelte';

	let learners = $state.raw<Schemas['LearnerOut'][] | null>(null);
	let topics = $state.raw<{ key: string; words: string }[]>([]);
	let about = $state('');
	let wrong = $state('');
	let busy = $state(false);
	const may = $derived(!session.mayNot('decide'));

	$effect(() => {
		if (may) void load();
	});
	async function load() {
		try {
			const [found, desk] = await Promise.all([
				ask(api.GET('/api/training/group')),
				ask(api.GET('/api/training'))
			]);
			topics = [
				{ key: '', words: 'A mix of all' },
				...desk.topics.map((one) => ({ key: one.key, words: one.label }))
			];
			learners = found;
		} catch (error) {
			wrong = wordsOf(error);
		}
	}
	async function set(person: number) {
		if (busy) return;
		busy = true;
		wrong = '';
		try {
			const body = { id: crypto.randomUUID(), person, topic: about };
			learners = await ask(api.POST('/api/training/group/rounds', { body }));
		} catch (error) {
			wrong = wordsOf(error);
		} finally {
			busy = false;
		}
	}
	const leans: Record<string, string> = {
		over: 'surer than right',
		under: 'right more often than sure',
		'': ''
	};
</script>

<svelte:head><title>The group · Hematite</title></svelte:head>

{#if wrong}<div class="pb-3"><Notice level="stop">{wrong}</Notice></div>{/if}
{#if !may}<MayNot need="decide" />
{:else if learners}
	<div class="grid gap-4">
		<p class="text-faded print:hidden">
			<a href="/practice" class="inline-flex min-h-12 items-center underline underline-offset-4">Practice</a>
		</p>
		<div class="flex flex-wrap items-end justify-between gap-3">
			<h1>Who practises, and how they stand</h1>
			<div class="flex flex-wrap items-end gap-3 print:hidden">
				<div class="w-56"><Pick label="A round of" options={topics} bind:value={about} /></div>
				<Button onclick={() => print()}><Printer aria-hidden="true" />Print this sheet</Button>
			</div>
		</div>
		<ul class="grid gap-2">
			{#each learners as one (one.person)}
				<li class="plate grid gap-x-4 gap-y-1 py-2 wide:grid-cols-[2fr_3fr_3fr_auto] wide:items-center">
					<b class="text-lg">{one.name}</b>
					<span>
						{#if one.of}{one.right} of {one.of} right{one.brier === null
								? ''
								: `, Brier ${decimal(one.brier, 2)}`}<span class="block text-faded"
								>{counted(one.days, ['one day of the last 14', '# days of the last 14'])}{leans[one.lean]
									? `; ${leans[one.lean]}`
									: ''}</span
							>{:else}<span class="text-faded">has not begun</span>{/if}
					</span>
					<span>
						{#if one.weakest}weakest: {one.weakest}{/if}
						{#if one.danger}<span class="block text-oxide"
								>{counted(one.danger, ['one wheel left in danger', '# wheels left in danger'])}</span
							>{/if}
					</span>
					<span class="print:hidden">
						{#if one.waiting}<span class="inline-flex min-h-12 items-center text-faded"
								>has a round to do</span
							>
						{:else}<Button onclick={() => void set(one.person)} disabled={busy}
								>Set a round<span class="sr-only">for {one.name}</span></Button
							>{/if}
					</span>
				</li>
			{/each}
		</ul>
		<p class="text-faded">
			Nobody is ranked: few answers prove little. A Brier score of 0.25 is a coin that says so, 0 is perfect.
			Nothing of this leaves the workshop.
		</p>
	</div>
{/if}
