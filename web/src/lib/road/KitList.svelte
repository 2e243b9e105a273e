<script lang="ts">
	import type { Schemas } from '$lib/api/client';
	import { inUnits, length, torque } from '$lib/shown.svelte';
	import Tick from '$lib/ui/Tick.svelte';

	/** What goes along for this vehicle's hubs, to be ticked off while it is packed. */
	let { kit, vehicle }: { kit: Schemas['KitOut']; vehicle: string } = $props();
	const key = $derived(`packed-${vehicle}`);
	let packed = $derived(JSON.parse(localStorage.getItem(key) ?? '[]') as string[]);
	function pack(item: string, on: boolean) {
		packed = on ? [...packed, item] : packed.filter((one) => one !== item);
		localStorage.setItem(key, JSON.stringify(packed));
	}
	const groups = $derived([
		{ title: 'Parts', items: kit.parts },
		{ title: 'Used up', items: kit.uses },
		{ title: 'Tools', items: kit.tools }
	]);
	const named = (item: Schemas['KitItemOut']) => `${item.key}-${item.size}-${item.hubs.join()}`;
</script>

{#if kit.unknown.length}
	<p class="plate border-l-ochre">
		<b>Which it is, nobody wrote down:</b>
		{kit.unknown.join('; ')}. Measure before the trip.
	</p>
{/if}
{#each kit.not_on_the_road as [hubs, why] (hubs)}
	<p class="plate border-l-ochre"><b class="font-mono">{hubs}</b>: {why}</p>
{/each}
{#each groups as group (group.title)}
	<section class="grid gap-1" aria-label={group.title}>
		<h3>{group.title}</h3>
		<ul class="grid sm:grid-cols-2">
			{#each group.items as item (named(item))}
				<li>
					<Tick
						label={[item.label, item.size, item.hubs.length ? `(${item.hubs.join(', ')})` : '']
							.join(' ')
							.trim()}
						checked={packed.includes(named(item))}
						onchange={(on) => pack(named(item), on)}
					/>
				</li>
			{/each}
		</ul>
	</section>
{/each}
{#each kit.cards as card (card.hubs.join())}
	<section class="plate grid gap-2" aria-label="Card of {card.hubs.join(', ')}">
		<h3><span class="font-mono">{card.hubs.join(', ')}</span> on one card</h3>
		<p>{card.design}.</p>
		{#if card.moves.length}
			<ol class="list-decimal pl-6">
				{#each card.moves as move (move)}<li>{inUnits(move)}</li>{/each}
			</ol>
		{/if}
		<p>
			Play {length(card.play_mm[0] ?? 0)} to {length(card.play_mm[1] ?? 0)}.
			<span class="text-faded">{inUnits(card.play_source)}.</span>
		</p>
		<ul>
			{#each card.torques as row (row.label)}
				<li>
					{row.label}:
					{#if row.torque_nm !== null}<b>{torque(row.torque_nm)}</b>
						<span class="text-faded">{row.source}</span>{:else}<span class="text-faded"
							>not written down: look it up before the trip</span
						>{/if}{row.figure ? `, socket ${row.figure}` : ''}
				</li>
			{/each}
		</ul>
	</section>
{/each}
