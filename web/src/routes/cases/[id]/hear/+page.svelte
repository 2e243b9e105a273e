<script lang="ts">
	import { decimal } from '$lib/numbers';
	import HubName from '$lib/case/HubName.svelte';
	import HubChooser from '$lib/case/HubChooser.svelte';
	import { useCase } from '$lib/case/case.svelte';
	import { chosenHub } from '$lib/case/hub.svelte';
	import { CABIN } from '$lib/sound/made.svelte';
	import HearScreen from '$lib/sound/HearScreen.svelte';
	import RecordingCard from '$lib/sound/RecordingCard.svelte';
	import Button from '$lib/ui/Button.svelte';

	const held = useCase();
	const hub = $derived(chosenHub(held));
	const standing = $derived(held.recordings.filter((row) => !row.withdrawn && !row.after_repair));
	const notes = $derived(
		Object.fromEntries(
			held.hubs.map((row) => {
				const own = standing.filter((recording) => recording.place === row.id);
				const above = own.at(-1)?.relative_db;
				const level = above === null || above === undefined ? '' : `, +${decimal(above)} dB`;
				return [row.id, own.length ? `heard${level}` : 'not heard yet'];
			})
		)
	);
	const here = $derived(
		held.recordings.filter((row) => [hub, CABIN].includes(row.place) && !row.after_repair).reverse()
	);
</script>

<HearScreen place={hub}>
	{#snippet above()}
		<h1>Hear <HubName {hub} /></h1>
		<HubChooser selected={hub} {notes} />
	{/snippet}
	{#snippet below()}
		<section class="grid content-start gap-3" aria-label="Recordings of {hub}">
			<div class="flex flex-wrap items-center justify-between gap-3">
				<h2>Recordings of {hub}</h2>
				{#if standing.length}<Button href="/cases/{held.id}/bench">Listening bench</Button>{/if}
			</div>
			{#each here as recording (recording.id)}
				<RecordingCard {recording} />
			{:else}
				<p class="text-faded">None yet. Do all corners alike: the worst is found by comparison.</p>
			{/each}
		</section>
	{/snippet}
</HearScreen>
