<script lang="ts">
	import ComeIn from '$lib/people/ComeIn.svelte';
</script>

<ComeIn kind="join" heading="Join a workshop" />
