<script lang="ts">
	import { decimal } from '$lib/numbers';
	import type { Schemas } from '$lib/api/client';
	import { useCase } from '$lib/case/case.svelte';
	import Curves from './Curves.svelte';
	import { fetchCurve, named } from './orders';

	/** One recording a hub, all made alike. */
	let {
		recordings,
		band
	}: { recordings: Schemas['RecordingOut'][]; band?: { low_hz: number; high_hz: number } } = $props();
	const held = useCase();
	let curves = $state.raw<Record<string, { x: number[]; y: number[] }>>({});
	const axles = $derived(held.detail?.vehicle_detail.axles ?? []);
	const at = (hub: string) => recordings.find((row) => row.place === hub);
	const top = $derived(
		Math.max(10, ...Object.values(curves).map((c) => c.y.reduce((a, b) => Math.max(a, b), 0)))
	);

	$effect(() => {
		let gone = false;
		void Promise.all(recordings.map((row) => fetchCurve(row, band).catch(() => null))).then((found) => {
			if (!gone) curves = Object.fromEntries(found.flatMap((c) => (c?.x.length ? [[c.name, c]] : [])));
		});
		return () => {
			gone = true;
		};
	});
</script>

<figure class="grid gap-2">
	<figcaption>
		Every corner in its place, front at the top (events per wheel turn; dB over the floor)
	</figcaption>
	<div class="grid gap-3">
		{#each axles as axle, n (n)}
			<div class="grid gap-3 sm:grid-cols-2">
				{#each axle.hubs as hub (hub.id)}
					{@const row = at(hub.id)}
					{@const curve = curves[hub.id]}
					<div
						class="min-w-0 border-t border-faded pt-1 {hub.side === 'right' ? 'sm:col-start-2' : ''}"
						role="group"
						aria-label={hub.id}
					>
						<p class="flex justify-between gap-2">
							<b class="font-mono text-lg">{hub.id}</b>
							<span class="text-faded">
								{row
									? row.relative_db === null
										? ''
										: `${decimal(row.relative_db)} dB over the quietest`
									: 'not recorded like this'}
							</span>
						</p>
						{#if row && curve}
							<Curves
								label="Order spectrum of {hub.id}"
								file="{hub.id}-orders"
								curves={[{ name: hub.id, ...curve }]}
								places={named(row).filter((place, n, all) => n === all.findIndex((p) => p.row === place.row))}
								xLabel=""
								yLabel=""
								columns={['events_per_wheel_turn', 'db_over_floor']}
								readout={() => ''}
								height={150}
								yMax={top}
								bare
							/>
						{:else if row}
							<p class="text-faded">{row.speed_words || 'No speed is known here.'}</p>
						{/if}
					</div>
				{/each}
			</div>
		{/each}
	</div>
</figure>
