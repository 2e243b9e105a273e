<script lang="ts">
	import StageScreen from '$lib/case/StageScreen.svelte';
</script>

<StageScreen stage="rock" round={['rock_12_6', 'rock_3_9']} title="Rock" />
