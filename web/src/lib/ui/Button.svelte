<script lang="ts">
	import { Button } from 'bits-ui';
	import type { Snippet } from 'svelte';

	interface Props {
		children: Snippet;
		onclick?: () => void;
		/** Makes it a link. */
		href?: string;
		/** What the link leads to is a file to be kept. */
		download?: boolean;
		type?: 'button' | 'submit';
		/** main: the one thing to do here; plain: another; quiet: small print. */
		look?: 'main' | 'plain' | 'quiet';
		/** The single key that does the same, printed on it. */
		hotkey?: string;
		disabled?: boolean;
		class?: string;
	}
	let {
		children,
		onclick,
		href,
		download = false,
		type = 'button',
		look = 'plain',
		hotkey,
		disabled,
		class: extra = ''
	}: Props = $props();

	const looks = {
		main: 'bg-blued text-on-blued border-blued font-semibold',
		plain: 'bg-plate text-print border-faded',
		quiet: 'border-transparent text-print underline underline-offset-4'
	};
</script>

<Button.Root
	{...href ? { href, ...(download ? { download: '' } : {}) } : { type }}
	{onclick}
	{disabled}
	class="inline-flex min-h-12 min-w-12 items-center justify-center gap-2 rounded-sm border px-4 py-2 text-base disabled:opacity-60 {looks[
		look
	]} {extra}"
>
	{@render children()}
	{#if hotkey}<kbd class="rounded-xs border border-current/50 px-1.5 font-mono text-base" aria-hidden="true"
			>{hotkey}</kbd
		>{/if}
</Button.Root>
