<script lang="ts">
	/** A small plan of a vehicle: a bar an axle, a tread block a wheel. */
	let { axles }: { axles: string[][] } = $props();
	const blocks = $derived(
		axles.map((hubs, n) => ({
			y: 6 + n * 13,
			x: hubs.map((_, k) =>
				2 * k + 1 === hubs.length ? 19 : 2 * k < hubs.length ? 3 + k * 6 : 35 - (hubs.length - 1 - k) * 6
			)
		}))
	);
</script>

<svg
	viewBox="0 0 44 {13 * axles.length}"
	width="44"
	height={13 * axles.length}
	aria-hidden="true"
	class="shrink-0"
>
	{#each blocks as axle, n (n)}
		<path d="M5 {axle.y} H39" stroke="var(--faded)" stroke-width="2" />
		{#each axle.x as x, k (k)}<rect
				{x}
				y={axle.y - 5}
				width="5"
				height="10"
				rx="1.5"
				fill="currentColor"
			/>{/each}
	{/each}
</svg>
