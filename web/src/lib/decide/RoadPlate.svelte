<script lang="ts">
	import { CircleQuestionMark, OctagonX, Route, Truck } from '@lucide/svelte';
	import type { Schemas } from '$lib/api/client';

	/** How far the vehicle can go until it is mended: a sign, a word, which hub says so, the reasons, the cautions. */
	let { road }: { road: Schemas['VehicleRoadOut'] } = $props();
	const look = $derived(
		{
			no: { icon: OctagonX, class: 'border-l-oxide bg-oxide-wash' },
			unknown: { icon: CircleQuestionMark, class: 'border-l-ochre' },
			gently: { icon: Truck, class: 'border-l-ochre bg-ochre-wash' }
		}[road.key] ?? { icon: Route, class: 'border-l-blued' }
	);
	const Icon = $derived(look.icon);
</script>

<section class="plate grid gap-2 {look.class}" aria-label="How far can it go">
	<p class="text-faded">How far can it go until then?</p>
	<p class="flex items-center gap-3 text-xl leading-tight font-semibold">
		<Icon class="size-8 shrink-0" aria-hidden="true" />{road.label}
	</p>
	<p><span class="font-mono">{road.hub}</span>: {road.because.join(' ')}</p>
	<ul class="grid list-disc gap-1 pl-5">
		{#each road.cautions as caution (caution)}<li>{caution}</li>{/each}
	</ul>
</section>
