<script lang="ts">
	import { wordsOf, type Schemas } from '$lib/api/client';
	import Curves, { type Curve } from './Curves.svelte';
	import { fetchCurve, named } from './orders';

	interface Props {
		recording: Schemas['RecordingOut'];
		/** Other corners to lay over it. */
		others?: Schemas['RecordingOut'][];
		/** A band of one's own choice; else the one that was found. */
		band?: { low_hz: number; high_hz: number };
	}
	let { recording, others = [], band }: Props = $props();
	let curves = $state.raw<Curve[]>([]);
	let wrong = $state('');

	const places = $derived(named(recording));
	const atSpeed = $derived(
		recording.turns_per_s ? ` at ${recording.turns_per_s.toFixed(2)} turns a second` : ''
	);

	$effect(() => {
		let gone = false;
		wrong = '';
		Promise.all([recording, ...others].map((row) => fetchCurve(row, band))).then(
			(found) => {
				if (!gone) curves = found.filter((curve) => curve.x.length);
			},
			(error) => {
				if (!gone) wrong = wordsOf(error);
			}
		);
		return () => {
			gone = true;
		};
	});
</script>

<figure class="grid gap-2">
	<figcaption>
		What repeats in {recording.place}, per wheel turn (order spectrum of the envelope){atSpeed}
	</figcaption>
	{#if recording.turns_per_s}
		<Curves
			label="Order spectrum of {recording.place}"
			file="{recording.place}-orders"
			{curves}
			{places}
			xLabel="Events per wheel turn"
			yLabel="Height over the floor, dB"
			columns={['events_per_wheel_turn', 'db_over_floor']}
			readout={(x, y) => `${x.toFixed(2)} a turn: ${y.toFixed(1)} dB`}
		/>
	{:else}
		<p class="text-faded">
			{recording.speed_words || 'No speed was given.'} So nothing can be laid out per wheel turn.
		</p>
	{/if}
	{#if wrong}<p class="text-oxide">{wrong}</p>{/if}
</figure>
