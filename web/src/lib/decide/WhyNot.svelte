<script lang="ts">
	import type { Schemas } from '$lib/api/client';

	let { others }: { others: Schemas['AlternativeOut'][] } = $props();
</script>

{#if others.length}
	<section class="grid gap-2" aria-label="Why not otherwise">
		<h2>Why not otherwise</h2>
		<dl class="grid gap-1">
			{#each others as other (other.choice)}
				<div class="border-b border-groove pb-1 sm:grid sm:grid-cols-[2fr_3fr] sm:gap-3">
					<dt class="font-semibold">{other.label}</dt>
					<dd>{other.because}</dd>
				</div>
			{/each}
		</dl>
	</section>
{/if}
