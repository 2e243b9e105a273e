<script lang="ts">
	import { inUnits } from '$lib/shown.svelte';
	import HowTo from '$lib/case/HowTo.svelte';
	import TestEntry from '$lib/case/TestEntry.svelte';
	import { useCase } from '$lib/case/case.svelte';
	import { bindKeys } from '$lib/keys.svelte';
	import { session } from '$lib/session.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import { goto } from '$app/navigation';

	const held = useCase();
	const next = $derived(held.assessment?.next_test);
	const row = $derived(session.reference?.witnesses.find((one) => one.key === next?.test));
	const hub = $derived(next?.hub ?? '');
	const lifting = $derived(
		Boolean(row?.apart) && !held.detail?.observations.some((one) => one.kind === 'made_safe')
	);
	$effect(() => bindKeys([{ key: 'd', label: 'Decide', run: () => void goto(`/cases/${held.id}/decide`) }]));
</script>

{#if next && !row}
	<section class="plate mx-auto grid max-w-2xl gap-3 border-l-blued">
		<h1>{next.label}</h1>
		<p class="text-lg">{inUnits(next.why)}</p>
		<div>
			<Button
				look="main"
				hotkey={next.stage === 'decide' ? 'd' : undefined}
				href="/cases/{held.id}/{next.stage}{next.hub ? `?hub=${next.hub}` : ''}"
				>{next.stage === 'decide' ? 'Decide' : next.stage === 'do' ? 'Do it' : 'Prove it'}</Button
			>
		</div>
	</section>
{:else if next && row}
	<div class="mx-auto grid max-w-2xl gap-5">
		<p class="text-faded">One test at a time. The next is the one that tells most for its minutes.</p>
		<h1>
			{inUnits(row.act)}{#if hub}, <span class="font-mono">{hub}</span>{/if}
		</h1>
		{#if lifting}
			<Notice level="warn">
				Lift it and make it safe first: stands, not the jack.
				<Button look="quiet" href="/cases/{held.id}/lift">Lift and make safe</Button>
			</Notice>
		{/if}
		<HowTo {row} open />
		{#key next.test + hub}<TestEntry witness={next.test} {hub} />{/key}
		<div class="flex flex-wrap gap-3">
			<Button hotkey="w" href="/cases/{held.id}">Walkround</Button>
		</div>
	</div>
{/if}
