<script lang="ts">
	import { Checkbox, Label } from 'bits-ui';
	import { Check } from '@lucide/svelte';

	interface Props {
		label: string;
		checked: boolean;
		onchange?: (checked: boolean) => void;
	}
	let { label, checked = $bindable(), onchange }: Props = $props();
	const id = $props.id();
</script>

<div class="flex min-h-12 items-center gap-3">
	<Checkbox.Root
		{id}
		bind:checked
		onCheckedChange={onchange}
		class="grid size-12 shrink-0 place-items-center rounded-sm border-2 border-faded bg-plate data-[state=checked]:bg-blued data-[state=checked]:text-on-blued"
	>
		{#snippet children({ checked: on })}{#if on}<Check aria-hidden="true" />{/if}{/snippet}
	</Checkbox.Root>
	<Label.Root for={id} class="py-2">{label}</Label.Root>
</div>
