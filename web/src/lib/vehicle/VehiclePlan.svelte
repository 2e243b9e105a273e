<script lang="ts">
	import type { Schemas } from '$lib/api/client';
	import { bindKeys } from '$lib/keys.svelte';
	import { percent } from '$lib/shown.svelte';
	import HubDial from './HubDial.svelte';

	interface Props {
		vehicle: Schemas['VehicleOut'];
		judged?: Record<string, Schemas['HubJudgement']>;
		/** What to print under a hub's name, when it is not its standing. */
		notes?: Record<string, string>;
		/** What is known at a hub already, in a few words. */
		known?: Record<string, string>;
		selected?: string;
		onselect: (hub: string) => void;
		compact?: boolean;
	}
	let { vehicle, judged = {}, notes = {}, known = {}, selected, onselect, compact = false }: Props = $props();

	type Hub = Schemas['HubOut'];
	const numbers = $derived(
		Object.fromEntries(vehicle.axles.flatMap((axle) => axle.hubs).map((hub, n) => [hub.id, String(n + 1)]))
	);
	$effect(() =>
		bindKeys(
			Object.entries(numbers).map(([hub, key]) => ({ key, label: `Hub ${hub}`, run: () => onselect(hub) }))
		)
	);
	const of = (hubs: Hub[], side: string) => hubs.filter((hub) => hub.side === side);
	const tone = (hub: Hub) => {
		const standing = judged[hub.id]?.standing;
		if (standing === 'culprit' || standing === 'danger') return 'border-oxide bg-oxide-wash text-oxide';
		return standing === 'suspect'
			? 'border-ochre bg-ochre-wash text-ochre'
			: 'border-faded bg-plate text-print';
	};
	const words = (hub: Hub) => {
		const known = judged[hub.id];
		if (!known) return '';
		if (known.standing === 'quiet' || known.standing === 'unheard' || known.cause === 'sound')
			return known.standing_label;
		const said = `${known.cause_label}, ${percent(known.probability)}`;
		return known.standing === 'danger' ? `${known.standing_label}; ${said}` : said;
	};
</script>

{#snippet wheel(hub: Hub)}
	<button
		type="button"
		aria-pressed={selected === undefined ? undefined : selected === hub.id}
		onclick={() => onselect(hub.id)}
		class="flex min-h-14 w-full flex-wrap items-center gap-2 rounded-sm border-2 text-left sm:flex-nowrap {compact
			? 'px-2 py-1 sm:p-2'
			: 'p-2'} {tone(hub)} {selected === hub.id ? 'outline-4 outline-blued' : ''} {compact
			? ''
			: 'sm:gap-3 sm:p-3'}"
	>
		{#if !compact && judged[hub.id]}
			<HubDial
				probability={judged[hub.id]?.probability ?? null}
				standing={judged[hub.id]?.standing ?? 'unheard'}
			/>
		{/if}
		<span class="max-w-full min-w-0 leading-tight">
			<span class="flex flex-wrap items-baseline gap-x-2 {compact ? 'text-lg' : 'text-xl'}"
				><b>{hub.words}</b><span class="font-mono text-base">{hub.id}</span><kbd
					class="rounded-xs border border-current/40 px-1 font-mono text-base {compact
						? 'max-sm:hidden'
						: ''}"
					aria-hidden="true">{numbers[hub.id]}</kbd
				></span
			>
			{#if notes[hub.id] ?? words(hub)}<span
					class="block hyphens-auto text-print {compact ? 'max-sm:truncate' : ''}"
					>{notes[hub.id] ?? words(hub)}</span
				>{/if}
			{#if known[hub.id]}<span class="block text-base text-faded">{known[hub.id]}</span>{/if}
		</span>
	</button>
{/snippet}

<div class="grid gap-0" role="group" aria-label="{vehicle.label} from above, front at the top">
	<p
		class="grid grid-cols-[1fr_auto_1fr] gap-2 pb-1 text-center text-faded {compact ? 'max-sm:sr-only' : ''}"
	>
		<span class="text-left">Left</span><span aria-hidden="true">▲ front</span><span class="text-right"
			>Right</span
		>
	</p>
	{#each vehicle.axles as axle, n (n)}
		<div
			class="grid items-stretch gap-x-2 {compact
				? 'grid-cols-[minmax(0,1fr)_2.5rem_minmax(0,1fr)]'
				: 'grid-cols-[minmax(0,1fr)_1.5rem_minmax(0,1fr)] sm:grid-cols-[minmax(0,1fr)_7rem_minmax(0,1fr)]'}"
		>
			<div class="grid grid-cols-[minmax(0,1fr)] content-center gap-2 {compact ? 'py-1 sm:py-3' : 'py-3'}">
				{#each of(axle.hubs, 'left') as hub (hub.id)}{@render wheel(hub)}{/each}
			</div>
			<div
				class="relative grid place-items-center border-x-2 border-groove bg-groove/40 text-center {n === 0
					? 'rounded-t-3xl border-t-2'
					: ''} {n === vehicle.axles.length - 1 ? 'rounded-b-lg border-b-2' : ''}"
			>
				<span class="absolute top-1/2 right-0 left-0 h-1.5 -translate-y-1/2 bg-faded" aria-hidden="true"
				></span>
				<span class="relative bg-steel px-1 leading-tight"><span class="sr-only">axle</span>{n + 1}</span>
				{#if !compact}
					<span class="absolute inset-x-0 top-[calc(50%+1rem)] hidden leading-tight text-faded sm:block">
						{[axle.driven && /* @wc-include */ 'driven', axle.steered && /* @wc-include */ 'steered']
							.filter(Boolean)
							.join(', ')}
					</span>
				{/if}
			</div>
			<div class="grid grid-cols-[minmax(0,1fr)] content-center gap-2 {compact ? 'py-1 sm:py-3' : 'py-3'}">
				{#each of(axle.hubs, 'right') as hub (hub.id)}{@render wheel(hub)}{/each}
			</div>
			{#if of(axle.hubs, 'centre').length}
				<div class="col-span-3 mx-auto grid w-3/5 gap-2 pb-3">
					{#each of(axle.hubs, 'centre') as hub (hub.id)}{@render wheel(hub)}{/each}
				</div>
			{/if}
		</div>
	{/each}
</div>
