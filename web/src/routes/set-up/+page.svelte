<script lang="ts">
	import ComeIn from '$lib/people/ComeIn.svelte';
</script>

<ComeIn kind="set_up" heading="Set up your workshop" />
