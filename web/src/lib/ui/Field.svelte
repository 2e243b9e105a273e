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
		numeric?: boolean;
		big?: boolean;
		autocomplete?: 'username' | 'current-password' | 'off';
		placeholder?: string;
	}
	let {
		label,
		value = $bindable(),
		unit,
		wrong,
		type = 'text',
		numeric = false,
		big = false,
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
			inputmode={numeric ? 'decimal' : undefined}
			aria-invalid={wrong ? 'true' : undefined}
			aria-describedby={wrong ? `${id}-wrong` : undefined}
			class={big ? 'min-h-16 font-mono text-2xl max-sm:px-2 sm:text-3xl' : ''}
		/>
		{#if unit}<span class="shrink-0 text-faded">{unit}</span>{/if}
	</div>
	{#if wrong}<p id="{id}-wrong" class="pt-1 text-oxide">{wrong}</p>{/if}
</div>
