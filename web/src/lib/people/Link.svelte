<script lang="ts">
	import type { Schemas } from '$lib/api/client';
	import { moment } from '$lib/dates';
	import Button from '$lib/ui/Button.svelte';

	/** A link that is shown once: to be read off by a phone, or copied. */
	let { link, onclose }: { link: Schemas['LinkOut']; onclose: () => void } = $props();
	let copied = $state(false);
	async function copy() {
		await navigator.clipboard?.writeText(link.address);
		copied = true;
	}
</script>

<div class="grid justify-items-start gap-2" role="status">
	<p>
		It is shown once, opens once, and holds until {moment(link.ends_at)}. Give it to nobody else.{link.mailed
			? ` It was sent to ${link.mailed} as well.`
			: ''}
	</p>
	<img src={link.qr} alt="The link as a QR code" class="size-48 bg-white" />
	<p class="font-mono text-base break-all">{link.address}</p>
	<div class="flex flex-wrap gap-2">
		<Button look="main" onclick={() => void copy()}>{copied ? 'Copied' : 'Copy'}</Button>
		<Button onclick={onclose}>Done</Button>
	</div>
</div>
