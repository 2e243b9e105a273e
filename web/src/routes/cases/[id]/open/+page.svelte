<script lang="ts">
	import AnswerScreen from '$lib/case/AnswerScreen.svelte';
	import HubChooser from '$lib/case/HubChooser.svelte';
	import { useCase } from '$lib/case/case.svelte';
	import { chosenHub } from '$lib/case/hub.svelte';
	import Notice from '$lib/ui/Notice.svelte';

	const held = useCase();
	const hub = $derived(chosenHub(held));
	const notes = $derived(
		Object.fromEntries(
			held.hubs.map((row) => [row.id, held.standing(row.id, 'opened')?.words ?? 'not opened'])
		)
	);
</script>

<div class="grid gap-6 wide:grid-cols-2">
	<section class="grid content-start gap-3">
		<h1>Open <span class="font-mono">{hub}</span> and look</h1>
		<HubChooser selected={hub} {notes} />
		<Notice level="warn">Do not blow brake dust, and never spin a dry bearing with compressed air.</Notice>
	</section>
	{#key hub}<AnswerScreen witness="opened" {hub} />{/key}
</div>
