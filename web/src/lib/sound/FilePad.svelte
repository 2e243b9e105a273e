<script lang="ts">
	import { ACCEPTED } from './files';

	/** Takes one file or many, of every kind that can be heard. */
	let { onbring, disabled }: { onbring: (files: File[]) => void; disabled: boolean } = $props();
</script>

<label
	class="inline-flex min-h-16 cursor-pointer items-center justify-center rounded-sm bg-blued px-4 text-lg font-semibold text-on-blued"
>
	Choose one file or many
	<input
		type="file"
		multiple
		accept={ACCEPTED}
		class="sr-only"
		onchange={(event) => {
			const files = [...(event.currentTarget.files ?? [])];
			event.currentTarget.value = '';
			onbring(files);
		}}
		{disabled}
	/>
</label>
<p class="text-faded">WAV, FLAC, OGG, MP3, a phone’s AAC, a CSV log, a universal file.</p>
