<script lang="ts">
	import { short, torque } from '$lib/shown.svelte';
	import { num } from '../drawn';

	/** The wrench with what is on it: both lengths and the angle to scale, the nut at its end, what is set at the grip. */
	let { picture }: { picture: Record<string, unknown> } = $props();
	const [length, extension] = $derived([num(picture, 'length_mm') || 400, num(picture, 'extension_mm') ?? 0]);
	const angle = $derived(((num(picture, 'angle_deg') ?? 0) * Math.PI) / 180);
	const scale = $derived(210 / (length + Math.max(extension * Math.cos(angle), 0) + 40));
	const square = $derived<[number, number]>([24 + length * scale, 78]);
	const nut = $derived<[number, number]>([
		square[0] + extension * scale * Math.cos(angle),
		square[1] - extension * scale * Math.sin(angle)
	]);
	const set = $derived(num(picture, 'set_nm') ?? 0);
	const aim = $derived(num(picture, 'aim_nm') ?? 0);
	const words = $derived(`Set ${torque(set)} at the wrench: ${torque(aim)} arrive at the nut`);
</script>

<svg viewBox="0 0 280 120" class="h-36 w-80 max-w-full shrink-0" role="img" aria-label={words} fill="none">
	<path d="M24 78 L{square.join(' ')}" stroke="currentColor" stroke-width="5" />
	<path d="M12 78 h34" stroke="currentColor" stroke-width="11" stroke-linecap="round" />
	{#if extension > 0}<path
			d="M{square.join(' ')} L{nut.join(' ')}"
			stroke="currentColor"
			stroke-width="5"
			class="text-oxide"
		/>{/if}
	<rect
		x={square[0] - 6}
		y={square[1] - 6}
		width="12"
		height="12"
		class="fill-plate"
		stroke="currentColor"
		stroke-width="2"
	/>
	<circle cx={nut[0]} cy={nut[1]} r="9" stroke="currentColor" stroke-width="2.5" />
	<text x="12" y="104" fill="currentColor" class="font-mono text-[13px]">{torque(set)}</text>
	<text
		x={Math.min(nut[0], 262)}
		y={Math.max(nut[1] - 16, 14)}
		text-anchor="end"
		fill="currentColor"
		class="font-mono text-[13px]">{torque(aim)}</text
	>
	{#if num(picture, 'length_mm')}<text
			x={(24 + square[0]) / 2}
			y="66"
			text-anchor="middle"
			fill="currentColor"
			class="text-[12px]">{short(length)}</text
		>{/if}
</svg>
