<script lang="ts">
	import { celsius, unitFor } from '$lib/shown.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Figure from '$lib/ui/Figure.svelte';
	import { inField } from '$lib/units';
	import { useCase } from './case.svelte';
	import { submits } from '$lib/ui/submits';

	/** A thermometer goes round the vehicle once: every hub’s figure is held against its mate’s, and against the air. */
	let { onlogged }: { onlogged?: () => void } = $props();
	const held = useCase();
	const axles = $derived(
		(held.detail?.vehicle_detail.axles ?? [])
			.map((axle) => axle.hubs.filter((hub) => held.assessment?.tests[hub.id]?.includes('heat')))
			.filter((hubs) => hubs.length)
	);
	let warm = $state<Record<string, number | null>>({});
	let air = $state<number | null>(null);

	const read = (hub: string) => warm[hub] ?? null;
	const any = $derived(Object.values(warm).some((value) => value !== null));
	/** A temperature by itself says nothing. */
	const needed = $derived.by(() => {
		if (!any) return 'Give how warm a hub is.';
		const alone = axles.flat().find((hub) => read(hub.id) !== null && read(hub.mate) === null);
		return alone ? `Give the mate’s of ${alone.id}, or the air’s.` : undefined;
	});

	async function log() {
		const unit = unitFor('temperature');
		for (const hub of axles.flat()) {
			const own = read(hub.id);
			if (own === null) continue;
			const mate = read(hub.mate);
			const value = {
				temp_c: celsius(own),
				...(mate === null ? {} : { mate_c: celsius(mate) }),
				...(air === null ? {} : { ambient_c: celsius(air) })
			};
			await held.observe(hub.id, 'heat', value, `${hub.id}: ${inField(own, unit)} ${unit.label}`);
		}
		warm = {};
		air = null;
		onlogged?.();
	}
</script>

<form class="plate grid gap-3" onsubmit={submits(log)}>
	<h2>By a thermometer, all round</h2>
	{#each axles as hubs, n (n)}
		<div class="grid grid-cols-2 gap-3">
			{#each hubs as hub (hub.id)}
				<Figure
					label="{hub.words}, {hub.id}"
					bind:value={() => read(hub.id), (value) => (warm[hub.id] = value)}
					of="temperature"
				/>
			{/each}
		</div>
	{/each}
	<Figure label="The air" bind:value={air} of="temperature" {needed} />
	<div><Button type="submit" look="main" disabled={held.closed}>Log the figures</Button></div>
</form>
