import { api, ask, wordsOf, type Schemas } from '$lib/api/client';
import { outbox } from '$lib/outbox/outbox.svelte';
import type { Run } from './made.svelte';
import type { State, Surface } from './marks';
import { Microphone, microphoneWords } from './microphone';

export type Capture =
	| { state: 'idle' }
	| { state: 'counting'; left: number }
	| { state: 'recording'; seconds: number; peak: number }
	| { state: 'checking'; id: string }
	| { state: 'kept'; id: string; recording: Schemas['RecordingOut'] }
	| { state: 'waiting'; id: string }
	| { state: 'failed'; words: string };

const POLL_MS = 400;
const pause = (ms: number) => new Promise((done) => setTimeout(done, ms));

/** One recording from start to its quality report, by whichever way it comes. */
export class Capturing {
	now = $state.raw<Capture>({ state: 'idle' });
	/** The state marked last, and how many times the wheel was tapped, for the screen. */
	marked = $state<State | ''>('');
	surface = $state<Surface>('');
	tapped = $state(0);
	/** Seconds that the browser lost while recording. */
	missing = $state(0);
	/** Seconds after which it stops by itself. */
	atMost = $state(0);
	run: Run = { marks: [], taps: [], seconds: 0 };
	#microphone: Microphone | undefined;

	constructor(private readonly caseId: string) {}

	/** Count in, so that hands are off the screen when it begins. False when it was called off meanwhile. */
	async countIn(seconds: number): Promise<boolean> {
		for (let left = seconds; left > 0; left -= 1) {
			this.now = { state: 'counting', left };
			await pause(1000);
			if (this.now.state !== 'counting') return false;
		}
		return true;
	}

	/** Mark that the vehicle is in a state from now on. */
	mark(state: State, surface: Surface = this.surface) {
		if (this.now.state !== 'recording') return;
		this.run.marks.push({ at: this.now.seconds, state, surface });
		this.marked = state;
		this.surface = surface;
	}

	/** Mark one turn of the wheel. */
	tap() {
		if (this.now.state !== 'recording') return;
		this.run.taps.push(this.now.seconds);
		this.tapped = this.run.taps.length;
	}

	async start(deviceId: string, atMost: number, full: () => void) {
		this.run = { marks: [], taps: [], seconds: 0 };
		this.marked = this.surface = '';
		this.tapped = 0;
		this.missing = 0;
		this.atMost = atMost;
		let over = false;
		try {
			this.#microphone = await Microphone.open(deviceId, ({ peak, seconds }) => {
				if (this.now.state !== 'recording') return;
				this.now = { state: 'recording', seconds, peak };
				this.run.seconds = seconds;
				if (seconds < this.atMost || over) return;
				over = true;
				full();
			});
			this.now = { state: 'recording', seconds: 0, peak: 0 };
		} catch (error) {
			this.now = { state: 'failed', words: microphoneWords(error) };
		}
	}

	async stop(made: Schemas['MadeIn']) {
		const microphone = this.#microphone;
		this.#microphone = undefined;
		this.missing = microphone?.missing ?? 0;
		const sound = await microphone?.stop();
		if (sound) await this.send(sound, made);
	}

	/** Let it run on. */
	extend(seconds: number) {
		if (this.now.state === 'recording') this.atMost += seconds;
	}

	/** What was recorded up to now, while it goes on. */
	soFar(): Blob {
		return this.#microphone?.soFar() ?? new Blob();
	}

	/** Let go of the microphone when the screen is left. */
	abandon() {
		void this.#microphone?.stop();
		this.#microphone = undefined;
	}

	/** Keep a sound on the device, send it, and wait for its report. */
	async send(sound: Blob, made: Schemas['MadeIn']) {
		const id = crypto.randomUUID();
		this.now = { state: 'checking', id };
		await outbox.add({
			id,
			caseId: this.caseId,
			label: `Recording at ${made.place}`,
			kind: 'recording',
			made,
			sound
		});
		const refused = outbox.refusalOf(id);
		if (refused) this.now = { state: 'failed', words: refused };
		else await this.#report(id);
	}

	async simulate(made: Schemas['MadeIn'], condition: string) {
		const id = crypto.randomUUID();
		this.now = { state: 'checking', id };
		try {
			const params = { path: { case_id: this.caseId } };
			const body = { made, id, condition: condition || null };
			await ask(api.POST('/api/cases/{case_id}/recordings/simulated', { params, body }));
			await this.#report(id);
		} catch (error) {
			this.now = { state: 'failed', words: wordsOf(error) };
		}
	}

	/** Wait for the report; with the network away say that it waits here. */
	async #report(id: string) {
		while (this.now.state === 'checking' && this.now.id === id) {
			if (outbox.of(id)) {
				this.now = { state: 'waiting', id };
				return;
			}
			const path = { recording_id: id };
			const recording = await ask(api.GET('/api/recordings/{recording_id}', { params: { path } })).catch(
				() => null
			);
			if (recording && recording.state !== 'waiting') {
				this.now = { state: 'kept', id, recording };
				return;
			}
			await pause(POLL_MS);
		}
	}

	/** A sound that waited for the network has arrived: fetch its report. */
	async arrived(id: string) {
		if (this.now.state !== 'waiting' || this.now.id !== id) return;
		this.now = { state: 'checking', id };
		await this.#report(id);
	}

	again() {
		this.now = { state: 'idle' };
	}
}
