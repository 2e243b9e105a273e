<script lang="ts">
	import StepPicture from '$lib/job/StepPicture.svelte';
	import { nums } from '../drawn';

	/** The nuts of the wheel with the turn of each. */
	let { picture }: { picture: Record<string, unknown> } = $props();
</script>

<StepPicture picture="star" star={nums(picture, 'order')} />
