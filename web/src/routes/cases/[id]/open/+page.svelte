<script lang="ts">
	import StageScreen from '$lib/case/StageScreen.svelte';
	import Notice from '$lib/ui/Notice.svelte';
</script>

<StageScreen stage="open" first="opened" title="Open and look at">
	<Notice level="warn">Do not blow brake dust, and never spin a dry bearing with compressed air.</Notice>
</StageScreen>
