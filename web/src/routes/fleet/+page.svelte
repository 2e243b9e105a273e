<script lang="ts">
	import { api, ask, wordsOf, type Schemas } from '$lib/api/client';
	import Comebacks from '$lib/fleet/Comebacks.svelte';
	import Costs from '$lib/fleet/Costs.svelte';
	import Orders from '$lib/fleet/Orders.svelte';
	import Weeks from '$lib/fleet/Weeks.svelte';
	import { decimal } from '$lib/numbers';
	import Button from '$lib/ui/Button.svelte';
	import Notice from '$lib/ui/Notice.svelte';

	let work = $state.raw<Schemas['FleetOut'] | null>(null);
	let past = $state.raw<Schemas['PastOut'] | null>(null);
	let wrong = $state('');

	void load();
	async function load() {
		wrong = '';
		const failed = (error: unknown) => (wrong = wordsOf(error));
		// What was done takes longer to count than what is to come.
		await Promise.all([
			ask(api.GET('/api/fleet')).then((found) => (work = found), failed),
			ask(api.GET('/api/fleet/past')).then((found) => (past = found), failed)
		]);
	}
</script>

<svelte:head><title>The fleet · Hematite</title></svelte:head>

<h1 class="pb-3">The fleet</h1>
{#if wrong}<Notice level="stop"
		>{wrong} <Button look="quiet" onclick={() => void load()}>Try again</Button></Notice
	>{/if}
<div class="grid gap-8 wide:grid-cols-2">
	<div class="grid content-start gap-8">
		{#if work}
			{#if work.more}<Notice level="warn"
					>Of the open jobs {decimal(work.more)} are not counted here: there are too many. Close what is done.</Notice
				>{/if}
			<Weeks weeks={work.weeks} />
			<Orders orders={work.orders} />
		{/if}
	</div>
	<div class="grid content-start gap-8">
		{#if past}
			<Comebacks rows={past.comebacks} />
			<Costs rows={past.costs} vehicles={past.vehicles} />
		{:else if !wrong}
			<p class="text-faded">Counting what came back …</p>
		{/if}
	</div>
</div>
