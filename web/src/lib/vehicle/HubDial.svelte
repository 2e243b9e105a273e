<script lang="ts">
	/** A bearing of eight balls: as many are filled as the hub is suspect, in eighths. Never told by colour alone. */
	interface Props {
		/** Probability that something is wrong at this hub, or null when nothing is known. */
		probability: number | null;
		standing: string;
	}
	let { probability, standing }: Props = $props();
	const BALLS = 8;
	const filled = $derived(probability === null ? 0 : Math.round(probability * BALLS));
	const balls = Array.from({ length: BALLS }, (_, n) => {
		const angle = (n / BALLS) * 2 * Math.PI - Math.PI / 2;
		return { x: 32 + 21 * Math.cos(angle), y: 32 + 21 * Math.sin(angle) };
	});
</script>

<svg viewBox="0 0 64 64" aria-hidden="true" class="size-11 shrink-0 sm:size-18">
	<circle cx="32" cy="32" r="30" fill="none" stroke="currentColor" stroke-width="2.5" />
	<circle
		cx="32"
		cy="32"
		r="11.5"
		fill="none"
		stroke="currentColor"
		stroke-width="2.5"
		stroke-dasharray={standing === 'unheard' ? '3 3' : undefined}
	/>
	{#each balls as ball, n (n)}
		<circle
			cx={ball.x}
			cy={ball.y}
			r="6.4"
			stroke="currentColor"
			stroke-width="1.6"
			class={n < filled ? 'fill-current' : 'fill-transparent'}
		/>
	{/each}
	{#if standing === 'culprit' || standing === 'danger'}<path
			d="M26 26 L38 38 M38 26 L26 38"
			stroke="currentColor"
			stroke-width="4"
		/>{/if}
</svg>
