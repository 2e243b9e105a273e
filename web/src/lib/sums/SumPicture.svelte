<script lang="ts">
	import HeatPicture from './pictures/HeatPicture.svelte';
	import LoadPicture from './pictures/LoadPicture.svelte';
	import NutPicture from './pictures/NutPicture.svelte';
	import PlayBar from './pictures/PlayBar.svelte';
	import PressPicture from './pictures/PressPicture.svelte';
	import ShimPicture from './pictures/ShimPicture.svelte';
	import StarPicture from './pictures/StarPicture.svelte';
	import WrenchPicture from './pictures/WrenchPicture.svelte';

	/** The drawing of a sum, made from the figures of its answer; nothing while there are none. */
	let { sum, picture }: { sum: string; picture: Record<string, unknown> } = $props();
	const has = $derived(Object.keys(picture).length > 0);
</script>

{#if has}
	<div class="flex flex-wrap items-center gap-4">
		{#if sum === 'nut' || sum === 'slots'}<NutPicture {picture} />{/if}
		{#if sum === 'nut' || sum === 'setting' || sum === 'slots'}<PlayBar {picture} />{/if}
		{#if sum === 'shims'}<ShimPicture {picture} />{/if}
		{#if sum === 'press'}<PressPicture {picture} />{/if}
		{#if sum === 'heat'}<HeatPicture {picture} />{/if}
		{#if sum === 'torque'}<WrenchPicture {picture} />{/if}
		{#if sum === 'wheel_nuts'}<StarPicture {picture} />{/if}
		{#if sum === 'life'}<LoadPicture {picture} />{/if}
	</div>
{/if}
