<script lang="ts">
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { untrack, type Snippet } from 'svelte';
	import { session } from '$lib/session.svelte';
	import { provideCase } from './case.svelte';
	import { screenOf, stages } from './stages';
	import { bindKeys } from '$lib/keys.svelte';
	import { moment } from '$lib/dates';
	import PracticeBar from '$lib/practice/PracticeBar.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Notice from '$lib/ui/Notice.svelte';

	/** A case and the bar of its stages; another case is another frame. */
	let { id, children }: { id: string; children: Snippet } = $props();
	// svelte-ignore state_referenced_locally
	const held = provideCase(id);
	// svelte-ignore state_referenced_locally
	const home = `/cases/${id}`;
	const here = $derived(page.url.pathname);
	/** The hub at hand goes along from stage to stage. */
	const along = $derived(page.url.searchParams.get('hub'));
	const witness = $derived(session.reference?.witnesses.find((row) => row.key === page.params.kind));
	const screen = $derived([witness?.label ?? screenOf(here), along].filter(Boolean).join(' '));
	/** What the case comes to, for who listens to the screen: said again only when it changes. */
	const comesTo = $derived.by(() => {
		const decision = held.assessment?.decision;
		return decision && !held.detail?.withheld
			? [decision.hub, decision.label].filter(Boolean).join(': ')
			: '';
	});
	/** What a practice case keeps to itself on this screen. */
	const shut = $derived.by(() => {
		const withheld = held.detail?.withheld;
		const screen = here.split('/')[3] ?? '';
		if (withheld === 'heard' && screen === 'bench') return 'heard';
		return withheld && ['why', 'guide', 'decide', 'do', 'prove', 'owner'].includes(screen) ? 'opinion' : '';
	});
	const stageHref = (path: string) => `${home}/${path}${along ? `?hub=${along}` : ''}`;

	// Begun once: what it fetches must not begin it again.
	$effect(() => untrack(() => held.follow()));
	$effect(() =>
		bindKeys([
			{ key: 'w', label: 'Walkround', run: () => void goto(home) },
			...stages.map((stage) => ({
				key: stage.key,
				label: stage.label,
				run: () => void goto(stageHref(stage.path))
			}))
		])
	);
</script>

<svelte:head><title>{screen}, {held.detail?.vehicle_label ?? 'case'} · Hematite</title></svelte:head>

{#snippet tab(href: string, label: string, key: string)}
	<a
		{href}
		aria-current={here === href.split('?')[0] || (here === `${home}/bench` && label === 'Hear')
			? 'page'
			: undefined}
		class="flex min-h-12 min-w-12 shrink-0 items-center justify-center gap-2 px-3 aria-[current]:bg-blued aria-[current]:text-on-blued max-wide:min-h-[48px] sm:px-3 wide:border-b-2 wide:border-groove"
		>{label}<kbd
			class="hidden rounded-xs border border-current/40 px-1 font-mono sm:inline"
			aria-hidden="true">{key}</kbd
		></a
	>
{/snippet}

<p class="sr-only" role="status" aria-label="What the case comes to">{comesTo}</p>

<!-- On a phone one slim bar that the thumb reaches; it slides, and the stage at hand is in sight. -->
<nav
	class="flex max-wide:fixed max-wide:inset-x-0 max-wide:bottom-0 max-wide:z-30 max-wide:overflow-x-auto max-wide:bg-steel max-wide:shadow-[0_-1px_0_var(--groove)] wide:pb-4 print:hidden"
	aria-label="Stages of the work"
	{@attach (bar) => {
		void here; // again on every stage
		const at = bar.querySelector<HTMLElement>('[aria-current]');
		if (at) bar.scrollLeft = at.offsetLeft - (bar.clientWidth - at.clientWidth) / 2;
	}}
>
	{@render tab(home, 'Walkround', 'w')}
	{#each stages as stage (stage.path)}{@render tab(stageHref(stage.path), stage.label, stage.key)}{/each}
</nav>

{#if held.error}
	<div class="pb-3">
		<Notice level="stop"
			>{held.error} <Button look="quiet" onclick={() => held.refresh()}>Try again</Button></Notice
		>
	</div>
{/if}
{#if held.detail?.came_from}
	{@const from = held.detail.came_from}
	<p class="pb-3 text-faded">
		Taken in by {from.by}, {moment(from.taken_at)}, from a bundle of {from.workshop || 'nobody named'}.
	</p>
{/if}
{#if held.closed}
	<div class="pb-3">
		<Notice
			>This case is closed: {held.detail?.outcome} New findings belong in a new case of this vehicle.</Notice
		>
	</div>
{/if}
{#if held.detail?.practice}<PracticeBar id={held.id} />{/if}
<div class="max-wide:pb-14">
	{#if held.detail && shut}
		<section class="plate grid gap-3">
			<h1>{shut === 'heard' ? 'Your ear first' : 'The bench keeps its opinion'}</h1>
			<p>
				{shut === 'heard'
					? 'Listen to the recordings, and say what you hear. Then the bench shows what it heard.'
					: 'What it believes of this vehicle is shown once you have answered. Until then find out for yourself.'}
			</p>
			<div><Button href="/practice/{held.id}" look="main">The question</Button></div>
		</section>
	{:else if held.detail}{@render children()}{/if}
</div>
