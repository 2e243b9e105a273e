<script lang="ts">
	import { Label } from 'bits-ui';

	interface Props {
		label: string;
		value: string;
		/** Shown after the field, such as mm. */
		unit?: string;
		/** What is wrong with it, from the server. */
		wrong?: string;
		type?: string;
		autocomplete?: 'username' | 'current-password' | 'new-password' | 'off';
		placeholder?: string;
	}
	let {
		label,
		value = $bindable(),
		unit,
		wrong,
		type = 'text',
		autocomplete = 'off',
		placeholder
	}: Props = $props();
	const id = $props.id();
</script>

<div>
	<Label.Root for={id} class="block pb-1 text-faded">{label}</Label.Root>
	<div class="flex items-center gap-2">
		<input
			{id}
			{type}
			{autocomplete}
			{placeholder}
			bind:value
			aria-invalid={wrong ? 'true' : undefined}
			aria-describedby={wrong ? `${id}-wrong` : undefined}
		/>
		{#if unit}<span class="shrink-0 text-faded">{unit}</span>{/if}
	</div>
	{#if wrong}<p id="{id}-wrong" class="pt-1 text-oxide">{wrong}</p>{/if}
</div>
