<script lang="ts">
	import type { Schemas } from '$lib/api/client';
	import Button from '$lib/ui/Button.svelte';

	let { lists, caseId }: { lists: Schemas['ListsOut']; caseId: string } = $props();
	const parts = $derived([
		{ title: 'Parts to buy', items: lists.parts, none: 'Nothing new goes on.' },
		{ title: 'Tools to lay out', items: lists.tools, none: 'No tools.' },
		{ title: 'Used up', items: lists.uses, none: 'Nothing.' }
	]);
</script>

<div class="grid gap-4">
	{#each parts as part (part.title)}
		<section class="grid gap-1">
			<h2>{part.title}</h2>
			{#if part.items.length}
				<ul class="grid gap-1">
					{#each part.items as item, n (item.key + n)}
						<li class="flex flex-wrap gap-x-2">
							<span>{item.label}</span>
							{#if item.size}<span class="font-mono">{item.size}</span>{/if}
							{#if item.hubs.length}<span class="font-mono text-faded">{item.hubs.join(' ')}</span>{/if}
							{#if item.why}<span class="text-faded">{item.why}</span>{/if}
						</li>
					{/each}
				</ul>
			{:else}<p class="text-faded">{part.none}</p>{/if}
		</section>
	{/each}
	<div class="flex flex-wrap gap-3">
		<Button href="/api/cases/{caseId}/job/sheet.pdf">Job sheet, PDF</Button>
		<Button href="/api/cases/{caseId}/job/lists.csv">Lists, CSV</Button>
	</div>
</div>
