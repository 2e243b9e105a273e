<script lang="ts">
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import Languages from '$lib/people/Languages.svelte';
	import SignIn from '$lib/SignIn.svelte';

	/** Back to the address that was asked for; only within these pages. */
	function onin() {
		const to = page.url.searchParams.get('to') ?? '/';
		void goto(/^\/(?![/\\])/.test(to) ? to : '/');
	}
</script>

<svelte:head><title>Sign in · Hematite</title></svelte:head>

<div class="mx-auto grid max-w-md gap-5 pt-6">
	<Languages />
	<div>
		<h1>Which wheel is it?</h1>
		<p class="pt-1 text-faded">Listen, rock, decide, set it and prove it. Sign in to your workshop.</p>
	</div>
	<SignIn {onin} />
</div>
