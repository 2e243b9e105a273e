<script lang="ts">
	import { decimal } from '$lib/numbers';
	import { Download, Pause, Play } from '@lucide/svelte';
	import { untrack } from 'svelte';
	import { type Schemas } from '$lib/api/client';
	import { useCase } from '$lib/case/case.svelte';
	import { download } from '$lib/download';
	import { bindKeys } from '$lib/keys.svelte';
	import { outbox } from '$lib/outbox/outbox.svelte';
	import { session } from '$lib/session.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import { laid, under, type Segment, type State, type Surface } from './marks';
	import { Wave } from './wave';

	interface Props {
		recording: Schemas['RecordingOut'];
		/** Quietest level among the corners, dB: the others are turned down to it. */
		quietest: number;
		/** Hear only this band. */
		band?: { low_hz: number; high_hz: number };
	}
	let { recording, quietest, band }: Props = $props();
	const held = useCase();
	let host = $state<HTMLDivElement>();
	let wave = $state.raw<Wave>();
	let playing = $state(false);
	let time = $state(0);
	let ready = $state(false);
	let looping = $state(false);
	let slow = $state(false);
	let wrong = $state('');
	let chosen = $state.raw<{ start: number; end: number } | null>(null);
	let resume = { at: 0, playing: false };

	const SLOW = 0.5;
	const LEAST_S = 0.1; // shorter stretches are slips of the hand
	const url = $derived(
		band
			? `/api/recordings/${recording.id}/band?low_hz=${band.low_hz}&high_hz=${band.high_hz}`
			: `/api/recordings/${recording.id}/audio`
	);
	const volume = $derived(
		band || recording.level_db === null ? 1 : Math.min(1, 10 ** ((quietest - recording.level_db) / 20))
	);
	const marks = $derived(recording.situation === 'road' ? (session.reference?.states ?? []) : []);

	const sampleRate = $derived(Math.max(8_000, Math.min(recording.rate, 96_000)));
	/** Marked here and not yet stored: the next mark is laid among them, not among what the server had before. */
	let laidHere = $state.raw<{ id: string; of: string; segments: Segment[] } | null>(null);
	const segments = $derived(
		laidHere?.of === recording.id && !outbox.refusalOf(laidHere.id)
			? laidHere.segments
			: (recording.segments as Segment[])
	);

	// Made anew for another sound or light only: a refresh of the case must not tear the waveform from under a drag.
	$effect(() => {
		if (!host) return;
		void session.light; // colours are read when drawn
		const [element, address, fine] = [host, url, sampleRate];
		const made = untrack(() => build(element, address, fine));
		wave = made;
		return () => {
			resume = { at: made.time, playing: made.playing };
			made.destroy();
		};
	});
	$effect(() => {
		if (ready) wave?.show(segments);
	});
	$effect(() => {
		if (ready) wave?.loudness(volume);
	});

	function build(element: HTMLDivElement, address: string, fine: number): Wave {
		ready = false;
		wrong = '';
		const made = new Wave({
			host: element,
			url: address,
			rate: slow ? SLOW : 1,
			sampleRate: fine,
			top: Math.min(fine / 2, 12_000),
			at: resume.at,
			words: ({ state, surface }) =>
				[session.words('states', state), surface && session.words('surfaces', surface)]
					.filter(Boolean)
					.join(', '),
			ontime: (seconds) => (time = seconds),
			onplaying: (now) => (playing = now),
			onready: () => {
				ready = true;
				if (chosen) made.choose(chosen.start, chosen.end);
				if (resume.playing) made.play();
			},
			onfail: () => (wrong = 'The sound could not be fetched. It is kept; try again in a moment.'),
			ondrawn: (start, end) => (chosen = { start, end })
		});
		return made;
	}

	/** Pressed before the sound has come, it plays as soon as it has. */
	function toggle() {
		if (ready) wave?.toggle();
		else resume = { ...resume, playing: !resume.playing };
	}

	const savePicture = () => download(wave?.picture() ?? '', `${recording.place}-sound.png`);

	function loop() {
		if (!wave || !chosen) {
			wrong = 'Drag across the waveform first, to choose what is to be heard again and again.';
			return;
		}
		looping = wave.looping = !looping;
		if (looping) wave.play();
	}
	/** Choose a stretch without a pointer: it begins, or ends, where the sound stands. */
	function edge(which: 'start' | 'end') {
		const other =
			which === 'start' ? Math.max(chosen?.end ?? recording.duration_s, time) : (chosen?.start ?? 0);
		const [start, end] = which === 'start' ? [time, other] : [Math.min(other, time), time];
		if (end - start < LEAST_S) return;
		chosen = { start, end };
		wave?.choose(start, end);
	}
	function slower() {
		slow = !slow;
		wave?.slow(slow ? SLOW : 1);
	}

	const surfaces = $derived(marks.length ? (session.reference?.surfaces ?? []) : []);

	async function mark(said: { state?: string; surface?: string }) {
		if (!chosen) {
			wrong = 'Drag across the waveform first, to choose the stretch that is to be marked.';
			return;
		}
		wrong = '';
		const kmh = recording.speed.kind === 'road' ? Number(recording.speed.kmh) : null;
		const { place, sensor, situation, gain_group, speed, after_repair } = recording;
		const before = under(segments, chosen.start, chosen.end);
		const one: Segment = {
			start_s: chosen.start,
			end_s: chosen.end,
			state: (said.state ?? before?.state ?? 'straight') as State,
			speed_kmh: before?.speed_kmh ?? kmh,
			surface: (said.surface ?? before?.surface ?? '') as Surface
		};
		const mine = { id: crypto.randomUUID(), of: recording.id, segments: laid(segments, one) };
		laidHere = mine;
		const made = {
			id: mine.id,
			place,
			sensor,
			situation,
			gain_group,
			speed,
			after_repair,
			segments: mine.segments
		};
		await held.writeLater(`/api/recordings/${mine.of}/made`, made, `The marks of ${place}`);
	}

	$effect(() =>
		bindKeys([
			{ key: ' ', label: 'Play or pause', run: toggle },
			{ key: 'l', label: 'Loop the chosen stretch', run: loop },
			{ key: '[', label: 'The stretch begins here', run: () => edge('start') },
			{ key: ']', label: 'The stretch ends here', run: () => edge('end') },
			{ key: 'v', label: 'Half speed, same pitch', run: slower }
		])
	);
</script>

<div class="grid gap-3">
	<div
		bind:this={host}
		class="w-full overflow-hidden"
		role="img"
		aria-label="Sound of {recording.place} over time, and its frequencies"
	></div>
	{#if !ready && !wrong}<p role="status" class="text-faded">Fetching the sound …</p>{/if}
	<div class="flex flex-wrap items-center gap-2">
		<Button look="main" hotkey="Space" onclick={toggle} disabled={!ready}>
			{#if playing}<Pause aria-hidden="true" />Pause{:else}<Play aria-hidden="true" />Play{/if}
		</Button>
		<Button hotkey="l" look={looping ? 'main' : 'plain'} onclick={loop}>Loop</Button>
		<Button hotkey="[" onclick={() => edge('start')}>From here</Button>
		<Button hotkey="]" onclick={() => edge('end')}>To here</Button>
		<Button hotkey="v" look={slow ? 'main' : 'plain'} onclick={slower}>Half speed</Button>
		<span class="font-mono" role="timer">{decimal(time, 1)} s</span>
		<Button onclick={savePicture} disabled={!ready}><Download aria-hidden="true" />Picture</Button>
		{#if chosen}<span class="text-faded">chosen {decimal(chosen.start, 1)} to {decimal(chosen.end, 1)} s</span
			>{/if}
	</div>
	{#if marks.length && !held.closed}
		<div class="flex flex-wrap items-center gap-2" role="group" aria-label="Mark the chosen stretch as">
			<span>Mark the chosen stretch:</span>
			{#each marks as row (row.key)}
				<Button onclick={() => mark({ state: row.key })}>{row.words}</Button>
			{/each}
			{#each surfaces as row (row.key)}
				<Button onclick={() => mark({ surface: row.key })}>{row.words}</Button>
			{/each}
		</div>
	{/if}
	{#if wrong}<Notice level="warn">{wrong}</Notice>{/if}
</div>
