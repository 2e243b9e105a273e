<script lang="ts">
	interface Props {
		/** What is to be chosen, such as a bundle (.zip). */
		what: string;
		accept: string;
		/** The file that was chosen before. */
		name?: string;
		disabled?: boolean;
		onpick: (file: File) => void;
	}
	let { what, accept, name, disabled = false, onpick }: Props = $props();
</script>

<label
	class="inline-flex min-h-12 cursor-pointer items-center justify-center justify-self-start rounded-sm border border-faded bg-plate px-4 focus-within:outline-2 focus-within:outline-offset-2 focus-within:outline-blued"
>
	{name ? `${name}: choose another` : `Choose ${what}`}
	<input
		type="file"
		{accept}
		class="sr-only"
		{disabled}
		onchange={(event) => {
			const file = event.currentTarget.files?.[0];
			event.currentTarget.value = ''; // the same one, mended, may be chosen again
			if (file) onpick(file);
		}}
	/>
</label>
