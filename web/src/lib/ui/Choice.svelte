<script lang="ts">
	import { RadioGroup } from 'bits-ui';

	interface Props {
		label: string;
		options: { key: string; words: string; hint?: string; hotkey?: string }[];
		value: string;
		onchange?: (value: string) => void;
		/** Pads side by side instead of below each other. */
		row?: boolean;
		/** In two columns where there is room. */
		pairs?: boolean;
		/** On a phone they are one line that slides, and take no room from what stands below. */
		slides?: boolean;
		disabled?: boolean;
	}
	let {
		label,
		options,
		value = $bindable(),
		onchange,
		row = false,
		pairs = false,
		slides = false,
		disabled = false
	}: Props = $props();
</script>

<RadioGroup.Root
	bind:value
	onValueChange={onchange}
	{disabled}
	aria-label={label}
	class={[
		row ? 'flex flex-wrap gap-2' : 'grid gap-2',
		pairs && 'sm:grid-cols-2',
		slides && 'max-sm:flex-nowrap max-sm:overflow-x-auto'
	]}
>
	{#each options as option (option.key)}
		<RadioGroup.Item
			value={option.key}
			class="flex min-h-14 items-center gap-3 rounded-sm border border-faded bg-plate px-3 py-2 text-left text-base {slides
				? 'max-sm:shrink-0'
				: ''} {row
				? 'wide:min-h-12'
				: ''} data-disabled:opacity-60 data-[state=checked]:border-blued data-[state=checked]:bg-blued data-[state=checked]:text-on-blued"
		>
			{#snippet children({ checked })}
				<span
					class="size-4 shrink-0 rounded-full border-2 border-current {checked ? 'bg-current' : ''}"
					aria-hidden="true"
				></span>
				<span class="grow"
					>{option.words}{#if option.hint}<span class="block opacity-80">{option.hint}</span>{/if}</span
				>
				{#if option.hotkey}<kbd
						class="rounded-xs border border-current/50 px-1.5 font-mono"
						aria-hidden="true">{option.hotkey}</kbd
					>{/if}
			{/snippet}
		</RadioGroup.Item>
	{/each}
</RadioGroup.Root>
