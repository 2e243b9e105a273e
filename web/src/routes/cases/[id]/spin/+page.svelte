<script lang="ts">
	import AnswerScreen from '$lib/case/AnswerScreen.svelte';
	import HubChooser from '$lib/case/HubChooser.svelte';
	import { useCase } from '$lib/case/case.svelte';
	import { chosenHub } from '$lib/case/hub.svelte';

	const held = useCase();
	const hub = $derived(chosenHub(held));
	const notes = $derived(
		Object.fromEntries(
			held.hubs.map((row) => [row.id, held.standing(row.id, 'spin')?.words ?? 'not spun yet'])
		)
	);
</script>

<div class="grid gap-6 wide:grid-cols-2">
	<section class="grid content-start gap-3">
		<h1>Spin <span class="font-mono">{hub}</span> by hand</h1>
		<HubChooser selected={hub} {notes} />
		<p>
			Push the pads back a little first: their scrape imitates a bearing. Touch the spring or strut while it
			turns, and compare all corners.
		</p>
	</section>
	{#key hub}<AnswerScreen witness="spin" {hub} />{/key}
</div>
