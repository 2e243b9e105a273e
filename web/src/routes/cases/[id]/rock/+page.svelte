<script lang="ts">
	import StageScreen from '$lib/case/StageScreen.svelte';
</script>

<StageScreen stage="rock" first="rock_12_6" title="Rock" />
