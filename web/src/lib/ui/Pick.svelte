<script lang="ts">
	import { Select } from 'bits-ui';
	import { Check, ChevronDown } from '@lucide/svelte';

	interface Props {
		label: string;
		options: { key: string; words: string }[];
		value: string;
		onchange?: (value: string) => void;
	}
	let { label, options, value = $bindable(), onchange }: Props = $props();
	const id = $props.id();
	const shown = $derived(options.find((option) => option.key === value)?.words ?? 'Choose');
</script>

<div>
	<span id="{id}-label" class="block pb-1 text-faded">{label}</span>
	<Select.Root
		type="single"
		bind:value
		onValueChange={onchange}
		items={options.map((option) => ({ value: option.key, label: option.words }))}
	>
		<Select.Trigger
			aria-label="{label}: {shown}"
			class="flex min-h-12 w-full items-center justify-between gap-2 rounded-sm border border-faded bg-plate px-3 py-2 text-left"
		>
			<span>{shown}</span><ChevronDown aria-hidden="true" class="shrink-0" />
		</Select.Trigger>
		<Select.Portal>
			<Select.Content
				class="z-50 max-h-96 w-[var(--bits-select-anchor-width)] overflow-y-auto rounded-sm border border-faded bg-plate shadow-lg"
				sideOffset={4}
			>
				{#each options as option (option.key)}
					<Select.Item
						value={option.key}
						label={option.words}
						class="flex min-h-12 cursor-pointer items-center justify-between gap-2 px-3 py-2 data-highlighted:bg-groove"
					>
						{#snippet children({ selected })}{option.words}{#if selected}<Check
									aria-hidden="true"
								/>{/if}{/snippet}
					</Select.Item>
				{/each}
			</Select.Content>
		</Select.Portal>
	</Select.Root>
</div>
