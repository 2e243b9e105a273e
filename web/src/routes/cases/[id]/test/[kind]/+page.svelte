<script lang="ts">
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import HubChooser from '$lib/case/HubChooser.svelte';
	import HubName from '$lib/case/HubName.svelte';
	import HowTo from '$lib/case/HowTo.svelte';
	import SameElsewhere from '$lib/case/SameElsewhere.svelte';
	import TestEntry from '$lib/case/TestEntry.svelte';
	import { unanswered } from '$lib/case/answers';
	import { useCase } from '$lib/case/case.svelte';
	import { entryWords } from '$lib/case/entry.svelte';
	import { chosenHub, hubAfter, walked, withHub } from '$lib/case/hub.svelte';
	import { bindKeys } from '$lib/keys.svelte';
	import { session } from '$lib/session.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Notice from '$lib/ui/Notice.svelte';

	const held = useCase();
	const kind = $derived(page.params.kind ?? '');
	const row = $derived(session.reference?.witnesses.find((one) => one.key === kind));
	const whole = $derived(row?.place === 'vehicle');
	const fitting = $derived(walked(held.hubs).filter((id) => held.assessment?.tests[id]?.includes(kind)));
	const asked = $derived(chosenHub(held));
	const hub = $derived(whole ? '' : fitting.includes(asked) ? asked : (fitting[0] ?? ''));
	const notes = $derived(
		Object.fromEntries(
			held.hubs.map((one) => [
				one.id,
				fitting.includes(one.id)
					? (held.saidHere(one.id, kind) ?? entryWords(held.standing(one.id, kind)) ?? 'not yet')
					: 'does not apply'
			])
		)
	);
	const at = (next: string) =>
		void goto(withHub(next), { replaceState: true, keepFocus: true, noScroll: true });

	/** The four corners one after another: an answer leads on to the next hub that has none. */
	function onlogged() {
		const next = unanswered(fitting, hub, (id) => !held.due(id, kind));
		if (!whole && next) at(next);
	}
	$effect(() =>
		whole ? undefined : bindKeys([{ key: 'n', label: 'Next hub', run: () => at(hubAfter(held, hub)) }])
	);
</script>

{#if row}
	<div class="grid gap-4 wide:grid-cols-2 wide:grid-rows-[auto_1fr] wide:gap-6">
		<section class="grid content-start gap-3">
			<h1>
				{row.label}{#if hub}<span class="pl-2"><HubName {hub} /></span>{/if}
			</h1>
			{#if !whole}<HubChooser selected={hub} {notes} />{/if}
		</section>
		<section class="grid content-start gap-4 wide:col-start-2 wide:row-span-2 wide:row-start-1">
			{#if whole || hub}
				{#key hub + kind}<TestEntry witness={kind} {hub} {onlogged} />{/key}
				{#if !whole}<SameElsewhere witnesses={[kind]} />{/if}
			{:else}
				<Notice>This vehicle has no hub where this test applies.</Notice>
			{/if}
			<div class="flex flex-wrap gap-3">
				{#if !whole}<Button hotkey="n" onclick={() => at(hubAfter(held, hub))}>Next hub</Button>{/if}
				<Button hotkey="w" href="/cases/{held.id}">Walkround</Button>
			</div>
		</section>
		<section><HowTo {row} open /></section>
	</div>
{:else}
	<Notice level="warn"
		>There is no such test. <Button look="quiet" href="/cases/{held.id}">Walkround</Button></Notice
	>
{/if}
