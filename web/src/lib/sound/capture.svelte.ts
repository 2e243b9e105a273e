import { untrack } from 'svelte';
import { SvelteMap } from 'svelte/reactivity';
import { api, ask, wordsOf, type Schemas } from '$lib/api/client';
import { outbox } from '$lib/outbox/outbox.svelte';
import { session } from '$lib/session.svelte';
import { whereWords, type Run } from './made.svelte';
import type { State, Surface } from './marks';
import { Microphone, microphoneWords } from './microphone';
import { Parts } from './parts';

export type Capture =
	| { state: 'idle' }
	| { state: 'counting'; left: number }
	| { state: 'opening' }
	| { state: 'recording'; seconds: number; peak: number }
	| { state: 'checking'; id: string }
	| { state: 'kept'; id: string; recording: Schemas['RecordingOut'] }
	| { state: 'waiting'; id: string }
	| { state: 'failed'; words: string };

const POLL_MS = 400;
const PART_S = 1; // so much is lost at most when the page dies
const pause = (ms: number) => new Promise((done) => setTimeout(done, ms));

/** What goes with a sound: fixed when it is begun, but for what happens during the run. */
type Make = (run: Run) => Schemas['MadeIn'];

/**
 * One recording of a case from start to its quality report, by whichever way it comes. It belongs to no screen: leaving
 * one does not end it, and only one runs at a time.
 */
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
	/** Where it is recorded: read when it is begun. */
	place = $state('');
	/** The device has no room for it: closing the page would lose it. */
	unkept = $state(false);
	#microphone: Microphone | undefined;
	#make: Make | undefined;
	#parts: Parts | undefined;
	#id = '';
	#begun = 0;

	constructor(readonly caseId: string) {}

	/** Whether it records, or is about to. */
	get running(): boolean {
		return ['counting', 'opening', 'recording'].includes(this.now.state);
	}

	/** What is being recorded is of, as far as it is known by now. */
	get made(): Schemas['MadeIn'] | undefined {
		return this.#make?.(this.run);
	}

	/** Count in, so that hands are off the screen when it begins. False when it was called off meanwhile. */
	async countIn(make: Make, seconds: number): Promise<boolean> {
		this.place = make(this.run).place;
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

	/** Open the microphone and record. Does nothing while one is opening; refused while another case records. */
	async start(make: Make, deviceId: string, atMost: number) {
		if (this.now.state === 'opening' || this.now.state === 'recording') return;
		const other = recorder.running;
		if (other && other !== this) {
			this.now = {
				state: 'failed',
				words: `It still records ${whereWords(other.place)}, in another case. Stop that first.`
			};
			return;
		}
		const mine = ++this.#begun;
		this.now = { state: 'opening' };
		this.#make = make;
		this.#id = crypto.randomUUID();
		this.run = { marks: [], taps: [], seconds: 0 };
		this.marked = this.surface = '';
		this.tapped = 0;
		this.missing = 0;
		this.unkept = false;
		this.atMost = atMost;
		this.place = make(this.run).place;
		try {
			const microphone = await Microphone.open(deviceId, this.#hearing());
			if (mine !== this.#begun) return void microphone.stop(); // called off while it opened
			this.#microphone = microphone;
			const owner = session.person?.id ?? 0;
			const made = make(this.run);
			const begun = { id: this.#id, owner, caseId: this.caseId, rate: microphone.rate, made };
			this.#parts = new Parts(begun, () => (this.unkept = true));
			this.now = { state: 'recording', seconds: 0, peak: 0 };
		} catch (error) {
			if (mine === this.#begun) this.now = { state: 'failed', words: microphoneWords(error) };
		}
	}

	/** Show the level, and write what comes to the device, second by second. */
	#hearing() {
		let blocks: Float32Array[] = [];
		let samples = 0;
		return {
			onBlock: (block: Float32Array) => {
				blocks.push(block);
				samples += block.length;
				if (samples < PART_S * (this.#microphone?.rate ?? Infinity) || !this.#make) return;
				this.#parts?.add(blocks, this.#make(this.run));
				blocks = [];
				samples = 0;
			},
			onLevel: ({ peak, seconds }: { peak: number; seconds: number }) => {
				if (this.now.state !== 'recording') return;
				this.now = { state: 'recording', seconds, peak };
				this.run.seconds = seconds;
				if (seconds >= this.atMost) void this.stop();
			}
		};
	}

	/** Stop and send what was recorded, at the place where it was begun. */
	async stop() {
		const [microphone, make, parts] = [this.#microphone, this.#make, this.#parts];
		if (!microphone || !make) return;
		this.#microphone = undefined;
		this.missing = microphone.missing;
		this.now = { state: 'checking', id: this.#id };
		const sound = await microphone.stop();
		await this.send(sound, make(this.run), this.#id, () => void parts?.end());
	}

	/** Let it run on. */
	extend(seconds: number) {
		if (this.now.state === 'recording') this.atMost += seconds;
	}

	/** What was recorded up to now, while it goes on. */
	soFar(): Blob {
		return this.#microphone?.soFar() ?? new Blob();
	}

	/** Keep a sound on the device, send it, and wait for its report. `onkept`: once the device has it whole. */
	async send(sound: Blob, made: Schemas['MadeIn'], id: string = crypto.randomUUID(), onkept = () => {}) {
		this.now = { state: 'checking', id };
		const label = `Recording ${whereWords(made.place)}`;
		await outbox.keep({ id, caseId: this.caseId, label, kind: 'recording', made, sound });
		if (!outbox.of(id)?.unkept) onkept();
		await outbox.flush();
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
		this.#begun++; // a microphone that opens only now is closed at once
		this.now = { state: 'idle' };
	}
}

/** The recordings of all cases of this page, and the one that runs. */
class Recorder {
	#of = new SvelteMap<string, Capturing>();

	of(caseId: string): Capturing {
		const known = untrack(() => this.#of.get(caseId));
		if (known) return known;
		const made = new Capturing(caseId);
		this.#of.set(caseId, made);
		return made;
	}

	get running(): Capturing | undefined {
		return [...this.#of.values()].find((one) => one.running);
	}
}

export const recorder = new Recorder();
