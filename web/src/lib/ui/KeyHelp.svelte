<script lang="ts">
	import { Dialog } from 'bits-ui';
	import { boundKeys, singleKeys } from '$lib/keys.svelte';
	import Button from './Button.svelte';
	import Tick from './Tick.svelte';

	let { open = $bindable(false) } = $props();
	const shownKey = (key: string) => (key === ' ' ? 'Space' : key);
</script>

<Dialog.Root bind:open>
	<Dialog.Portal>
		<Dialog.Overlay class="fixed inset-0 z-40 bg-black/60" />
		<Dialog.Content
			class="fixed top-1/2 left-1/2 z-50 max-h-[85vh] w-[min(32rem,calc(100vw-2rem))] -translate-1/2 overflow-y-auto rounded-sm border-2 border-blued bg-plate p-5"
		>
			<Dialog.Title class="text-2xl font-bold">Keys on this screen</Dialog.Title>
			<Dialog.Description class="py-2 text-faded"
				>Single keys; not while typing in a field.</Dialog.Description
			>
			<dl class="grid grid-cols-[auto_1fr] items-center gap-x-4 gap-y-2 py-2">
				{#each boundKeys() as shortcut (shortcut.key)}
					<dt><kbd class="rounded-xs border border-faded px-2 font-mono">{shownKey(shortcut.key)}</kbd></dt>
					<dd>{shortcut.label}</dd>
				{/each}
			</dl>
			<div class="grid gap-3">
				<Tick label="Single keys work" bind:checked={() => singleKeys.on, (on) => singleKeys.set(on)} />
				<Button onclick={() => (open = false)}>Close</Button>
			</div>
		</Dialog.Content>
	</Dialog.Portal>
</Dialog.Root>
