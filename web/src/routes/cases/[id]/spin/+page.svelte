<script lang="ts">
	import StageScreen from '$lib/case/StageScreen.svelte';
</script>

<StageScreen stage="spin" title="Spin" />
