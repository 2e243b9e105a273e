<script lang="ts">
	import ComeIn from '$lib/people/ComeIn.svelte';
</script>

<ComeIn kind="reset" heading="Choose a new password" />
