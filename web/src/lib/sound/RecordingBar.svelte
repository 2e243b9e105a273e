<script lang="ts">
	import { decimal } from '$lib/numbers';
	import { page } from '$app/state';
	import { Circle, Square } from '@lucide/svelte';
	import Button from '$lib/ui/Button.svelte';
	import { recorder } from './capture.svelte';
	import { whereWords } from './made.svelte';

	/** A recording that goes on while another screen is looked at. */
	const running = $derived(recorder.running);
	const home = $derived(running ? `/cases/${running.caseId}` : '');
	const elsewhere = $derived(![`${home}/hear`, `${home}/prove`].includes(page.url.pathname));
</script>

{#if running && elsewhere}
	<section
		class="sticky bottom-0 z-40 flex items-center gap-3 border-t-2 border-oxide bg-plate px-3 py-1 max-wide:bottom-12"
		aria-label="Recording goes on"
	>
		<Circle class="size-4 fill-oxide text-oxide" aria-hidden="true" />
		<a
			class="flex min-h-12 min-w-0 grow items-center underline underline-offset-4"
			href="{home}/hear?hub={running.place}"
			>Recording {whereWords(running.place)}{running.now.state === 'recording'
				? `, ${decimal(running.now.seconds)} s`
				: ''}</a
		>
		<Button look="main" onclick={() => running.stop()}
			><Square class="fill-current" aria-hidden="true" />Stop<span class="max-sm:sr-only">
				and keep</span
			></Button
		>
	</section>
{/if}
