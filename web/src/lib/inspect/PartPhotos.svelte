<script lang="ts">
	import { Camera, ImagePlus, Trash2 } from '@lucide/svelte';
	import { small } from '$lib/language';
	import { api, ask, wordsOf } from '$lib/api/client';
	import { useCase } from '$lib/case/case.svelte';
	import { session } from '$lib/session.svelte';
	import Button from '$lib/ui/Button.svelte';
	import ForGood from '$lib/ui/ForGood.svelte';
	import Notice from '$lib/ui/Notice.svelte';

	interface Props {
		hub: string;
		part: string;
		label: string;
	}
	let { hub, part, label }: Props = $props();
	const held = useCase();
	const own = $derived(held.photos.filter((row) => row.hub === hub && row.part === part));
	let camera = $state<HTMLInputElement>();
	let chooser = $state<HTMLInputElement>();
	let wrong = $state('');
	let taken = $state('');

	async function add(from: HTMLInputElement) {
		for (const file of from.files ?? [])
			await held.photograph(hub, part, file, `${hub}: photograph of ${small(label)}`);
		from.value = '';
	}
	async function forGood() {
		await ask(api.POST('/api/photos/{photo_id}/delete', { params: { path: { photo_id: taken } } }));
		taken = '';
		await held.refresh();
	}
	async function withdraw(photo: string, withdrawn: boolean) {
		wrong = '';
		try {
			const params = { path: { photo_id: photo } };
			await ask(api.POST('/api/photos/{photo_id}/withdraw', { params, body: { withdrawn } }));
			taken = withdrawn ? photo : '';
			await held.refresh();
		} catch (error) {
			wrong = wordsOf(error);
		}
	}
</script>

<div class="grid gap-2">
	<input
		bind:this={camera}
		type="file"
		accept="image/*"
		capture="environment"
		class="hidden"
		aria-label="Camera for {label}"
		onchange={(event) => add(event.currentTarget)}
	/>
	<input
		bind:this={chooser}
		type="file"
		accept="image/*"
		multiple
		class="hidden"
		aria-label="Photographs of {label}"
		onchange={(event) => add(event.currentTarget)}
	/>
	<div class="flex flex-wrap items-center gap-3">
		<Button onclick={() => camera?.click()} disabled={held.closed}
			><Camera aria-hidden="true" />Photograph it</Button
		>
		<Button onclick={() => chooser?.click()} disabled={held.closed}
			><ImagePlus aria-hidden="true" />From a file</Button
		>
		<span class="text-faded">Place and time are taken out of it.</span>
	</div>
	{#if wrong}<Notice level="stop">{wrong}</Notice>{/if}
	{#if taken}<Notice
			>Taken back. <Button look="quiet" onclick={() => withdraw(taken, false)}>Undo</Button>
			{#if !session.mayNot('rule')}<ForGood
					label="Delete it"
					words="Nobody can see it again."
					act={forGood}
				/>{/if}</Notice
		>{/if}
	{#if own.length}
		<ul class="flex flex-wrap gap-2">
			{#each own as photo, n (photo.id)}
				<li class="relative">
					<a href="/api/photos/{photo.id}" target="_blank" rel="noreferrer"
						><img
							src="/api/photos/{photo.id}?small=true"
							alt="{label}, photograph {n + 1} by {photo.person}"
							class="h-28 rounded-sm border border-groove"
						/></a
					>
					{#if !held.closed}<button
							type="button"
							class="absolute top-1 right-1 grid size-12 place-items-center rounded-sm bg-plate/90"
							aria-label="Take photograph {n + 1} back"
							onclick={() => withdraw(photo.id, true)}><Trash2 aria-hidden="true" /></button
						>{/if}
				</li>
			{/each}
		</ul>
	{/if}
</div>
