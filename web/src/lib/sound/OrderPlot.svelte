<script lang="ts">
	import { decimal } from '$lib/numbers';
	import { untrack } from 'svelte';
	import { wordsOf, type Schemas } from '$lib/api/client';
	import Curves, { type Curve } from './Curves.svelte';
	import { fetchCurve, named } from './orders';

	interface Props {
		recording: Schemas['RecordingOut'];
		/** Other corners to lay over it. */
		others?: Schemas['RecordingOut'][];
		/** A band of one's own choice; else the one that was found. */
		band?: { low_hz: number; high_hz: number };
		/** What each is called, where they are of one place. */
		names?: string[];
	}
	let { recording, others = [], band, names = [] }: Props = $props();
	const TYPED_MS = 400;
	let curves = $state.raw<Curve[]>([]);
	let wrong = $state('');

	const places = $derived(named(recording));
	const atSpeed = $derived(
		recording.turns_per_s ? ` at ${decimal(recording.turns_per_s, 2)} turns a second` : ''
	);

	/** What the curves depend on: not whatever else of the case changes meanwhile. */
	const drawn = $derived(
		JSON.stringify([[recording, ...others].map((row) => [row.id, row.turns_per_s, row.band_low_hz]), band])
	);
	$effect(() => {
		void drawn;
		let gone = false;
		const draw = () =>
			Promise.all(untrack(() => [recording, ...others].map((row) => fetchCurve(row, band)))).then(
				(found) => {
					if (gone) return;
					curves = found
						.map((curve, n) => ({ ...curve, name: names[n] ?? curve.name }))
						.filter((curve) => curve.x.length);
					wrong = '';
				},
				(error) => {
					if (!gone) wrong = wordsOf(error);
				}
			);
		// A band that is being typed is not drawn figure by figure.
		const timer = setTimeout(
			() => void draw(),
			untrack(() => (band ? TYPED_MS : 0))
		);
		return () => {
			gone = true;
			clearTimeout(timer);
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
			readout={(x, y) => `${decimal(x, 2)} a turn: ${decimal(y, 1)} dB`}
		/>
	{:else}
		<p class="text-faded">
			{recording.speed_words || 'No speed was given.'} So nothing can be laid out per wheel turn.
		</p>
	{/if}
	{#if wrong}<p class="text-oxide">{wrong}</p>{/if}
</figure>
