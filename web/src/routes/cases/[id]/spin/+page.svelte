<script lang="ts">
	import StageScreen from '$lib/case/StageScreen.svelte';
</script>

<StageScreen stage="spin" round={['spin']} title="Spin" />
