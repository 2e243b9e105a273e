<script lang="ts">
	import { Popover, ToggleGroup } from 'bits-ui';
	import { Ruler } from '@lucide/svelte';
	import { session } from '$lib/session.svelte';
	import { unitOf } from '$lib/units';

	const quantities = $derived(session.reference?.quantities ?? []);
</script>

<Popover.Root>
	<Popover.Trigger class="grid size-12 place-items-center" aria-label="Units" title="Units">
		<Ruler aria-hidden="true" />
	</Popover.Trigger>
	<Popover.Portal>
		<Popover.Content
			class="z-50 grid w-[min(24rem,calc(100vw-1rem))] gap-3 rounded-sm border-2 border-blued bg-plate p-4 text-print"
			collisionPadding={8}
		>
			{#each quantities as quantity (quantity.key)}
				<div>
					<p class="pb-1 text-faded">{quantity.label}</p>
					<ToggleGroup.Root
						type="single"
						aria-label={quantity.label}
						value={unitOf(quantities, session.units, quantity.key).key}
						onValueChange={(unit) => unit && void session.setUnit(quantity.key, unit)}
						class="flex flex-wrap gap-1"
					>
						{#each quantity.units as unit (unit.key)}
							<ToggleGroup.Item
								value={unit.key}
								class="min-h-12 min-w-14 rounded-sm border border-faded px-3 data-[state=on]:bg-blued data-[state=on]:text-on-blued"
								>{unit.label}</ToggleGroup.Item
							>
						{/each}
					</ToggleGroup.Root>
				</div>
			{/each}
		</Popover.Content>
	</Popover.Portal>
</Popover.Root>
