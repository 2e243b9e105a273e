<script lang="ts">
	import { short, unitLabel } from '$lib/shown.svelte';
	import { num, nums } from '../drawn';

	/** The pack to scale: thick ones outside, thin ones between, and how high it is. */
	let { picture }: { picture: Record<string, unknown> } = $props();
	const shims = $derived(nums(picture, 'shims_mm'));
	const total = $derived(num(picture, 'total_mm') ?? 0);
	/** Thick, thin, thick: every other one of the thick goes to the other side. */
	const stacked = $derived([
		...shims.filter((_, n) => n % 2 === 0),
		...shims.filter((_, n) => n % 2).reverse()
	]);
	const HIGH = 110;
	const scale = $derived(HIGH / Math.max(total, ...[shims.reduce((a, b) => a + b, 0)], 0.1));
	const tops = $derived(stacked.map((_, n) => stacked.slice(0, n).reduce((a, b) => a + b, 0) * scale));
	const words = $derived(
		`A pack of ${short(total)} ${unitLabel('length')}: ${stacked.map(short).join(', ')}`
	);
</script>

{#if shims.length}
	<svg viewBox="0 0 220 {HIGH + 12}" class="h-40 w-64 shrink-0" role="img" aria-label={words} fill="none">
		{#each stacked as shim, n (n)}
			<rect
				x="10"
				y={6 + (tops[n] ?? 0)}
				width="120"
				height={Math.max(shim * scale - 1, 1)}
				stroke="currentColor"
				fill="currentColor"
				fill-opacity={n % 2 ? 0.12 : 0.3}
			/>
			{#if shim * scale > 11}<text
					x="70"
					y={6 + (tops[n] ?? 0) + (shim * scale) / 2 + 4}
					text-anchor="middle"
					fill="currentColor"
					class="font-mono text-[12px]">{short(shim)}</text
				>{/if}
		{/each}
		<path d="M142 6 h12 M148 6 V{6 + total * scale} M142 {6 + total * scale} h12" stroke="currentColor" />
		<text x="158" y={10 + (total * scale) / 2} fill="currentColor" class="font-mono text-[13px]"
			>{short(total)}</text
		>
	</svg>
{/if}
