<script lang="ts">
	import type { Schemas } from '$lib/api/client';
	import { inUnits, km, ofKm } from '$lib/shown.svelte';
	import Field from '$lib/ui/Field.svelte';
	import Figure from '$lib/ui/Figure.svelte';
	import { asPlanned } from './plans';
	import Tick from '$lib/ui/Tick.svelte';

	interface Props {
		/** What the jobs of the case usually ask for. */
		usual: Schemas['UsualRecheckOut'][];
		/** What of it is planned, as it is sent. */
		planned: Schemas['PlanIn'][];
	}
	let { usual, planned = $bindable() }: Props = $props();

	const keyOf = (row: { key: string; hub: string }) => `${row.key} ${row.hub}`;
	const of = (row: Schemas['UsualRecheckOut']) => planned.find((one) => keyOf(one) === keyOf(row));
	function tick(row: Schemas['UsualRecheckOut'], on: boolean) {
		planned = on ? [...planned, ...asPlanned([row])] : planned.filter((one) => keyOf(one) !== keyOf(row));
	}
	function set(row: Schemas['UsualRecheckOut'], change: Partial<Schemas['PlanIn']>) {
		planned = planned.map((one) => (keyOf(one) === keyOf(row) ? { ...one, ...change } : one));
	}
</script>

<ul class="grid gap-3" aria-label="What is looked at again">
	{#each usual as row (keyOf(row))}
		{@const one = of(row)}
		<li class="grid gap-1 border-t border-groove pt-1">
			<Tick label="{row.hub} {inUnits(row.label)}" checked={Boolean(one)} onchange={(on) => tick(row, on)} />
			{#if one}
				<p class="text-faded">
					{inUnits(row.why)}
					{#if row.shortened.length}<b>Sooner than usual:</b> {row.shortened.join('; ')}.{/if}
				</p>
				<div class="grid gap-3 sm:grid-cols-2">
					<Field
						label="{row.hub} by"
						type="date"
						bind:value={() => one.due_on ?? '', (due_on) => set(row, { due_on: due_on || null })}
					/>
					{#if row.after_km}
						<Figure
							label="{row.hub} or after"
							bind:value={() => ofKm(one.after_km), (far) => set(row, { after_km: km(far) })}
							of="distance"
							above={0}
						/>
					{/if}
				</div>
			{/if}
		</li>
	{/each}
</ul>
