<script lang="ts">
	import { arc, num, polygon, round, rows } from '../drawn';

	/** The nut seen along its axle: how far it is backed off; with slots, each place that its lock takes. */
	let { picture }: { picture: Record<string, unknown> } = $props();
	const slots = $derived(num(picture, 'slots') ?? 0);
	const lock = $derived(String(picture.lock ?? ''));
	const places = $derived(rows(picture, 'positions').map((row) => num(row, 'angle_deg') ?? 0));
	const chosen = $derived(num(picture, 'chosen_deg'));
	const angle = $derived(chosen ?? num(picture, 'angle_deg') ?? 0);
	const words = $derived(
		slots
			? `A nut with ${slots} places; ${chosen === undefined ? 'none is taken' : `the one ${chosen.toFixed(0)}° back is taken`}`
			: `The nut backed off by ${angle.toFixed(0)}°, against the clock`
	);
	const tick = (deg: number, from: number, to: number) =>
		`M${round(deg, from).join(' ')} L${round(deg, to).join(' ')}`;
</script>

<svg viewBox="-64 -64 128 128" class="h-40 w-40 shrink-0" role="img" aria-label={words} fill="none">
	{#if lock === 'plate'}
		<circle r="44" stroke="currentColor" stroke-width="2" fill="currentColor" fill-opacity="0.14" />
		{#each Array.from({ length: slots }, (_, n) => n) as n (n)}
			{@const [x, y] = round(angle + (n * 360) / slots, 35)}
			<circle cx={x} cy={y} r="3.5" stroke="currentColor" />
		{/each}
	{:else}
		<polygon
			points={polygon(6, 44, angle)}
			stroke="currentColor"
			stroke-width="2"
			fill="currentColor"
			fill-opacity="0.14"
		/>
		{#if lock === 'castle' || lock === 'retainer'}
			{#each Array.from({ length: slots }, (_, n) => n) as n (n)}
				<path
					d={tick(angle + (n * 360) / slots, 26, 40)}
					stroke="currentColor"
					stroke-width="5"
					stroke-opacity="0.55"
				/>
			{/each}
		{/if}
	{/if}
	<circle r="20" stroke="currentColor" stroke-width="2" class="fill-plate" />
	{#if slots && lock !== 'plate' && lock !== 'tab'}
		<path d="M0 -21 V-44 M0 21 V44" stroke="currentColor" stroke-width="3" stroke-dasharray="2 2" />
	{/if}
	{#each places as deg (deg)}
		<path d={tick(deg, 48, 54)} stroke="currentColor" stroke-width={deg === chosen ? 4 : 1.5} />
	{/each}
	<path d={arc(angle, 50)} stroke="currentColor" stroke-width="3" class="text-oxide" />
	<path d={tick(0, 46, 60)} stroke="currentColor" stroke-width="1.5" />
	<text y="5" text-anchor="middle" fill="currentColor" class="font-mono text-[14px]">{angle.toFixed(0)}°</text
	>
</svg>
