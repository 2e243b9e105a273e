import type { Schemas } from '$lib/api/client';
import { session } from '$lib/session.svelte';
import { kmh } from '$lib/shown.svelte';
import { stretches, type Mark } from './marks';

type Kind = Schemas['SpeedIn']['kind'];
type Source = 'microphone' | 'file' | 'simulated'; // what the recorder knows how to do; their words are the server's
const FIGURES: Kind[] = ['road', 'wheel', 'counted'];
export const CABIN = 'cabin';
export const whereWords = (place: string): string => (place === CABIN ? 'in the cabin' : `at ${place}`);

/** What a run brought beside its sound: marks and taps, and how long it was. */
export interface Run {
	marks: Mark[];
	taps: number[];
	seconds: number;
}

/** How recordings of a case are being made; remembered on this device, so that four corners are set up once. */
export class Made {
	source = $state<Source>('microphone');
	capture = $state('stand_driven');
	sensor = $state<'clip' | 'air'>('clip');
	sameGain = $state(true);
	speedKind = $state<Kind>('unknown');
	/** Of the road in m/s, of the wheel in turns a second, or turns in all. */
	speed = $state<number | null>(null);
	/** A logged course of speed, [s, km/h]. */
	points = $state.raw<number[][]>([]);

	constructor(private readonly caseId: string) {
		const kept = localStorage.getItem(this.#key);
		if (kept) Object.assign(this, JSON.parse(kept));
		if (typeof this.speed !== 'number') this.speed = null;
	}

	get #key() {
		return `made-${this.caseId}`;
	}

	/** The chosen way of recording, from the trade's table. */
	get way(): Schemas['CaptureOut'] | undefined {
		return session.reference?.captures.find((row) => row.key === this.capture);
	}

	/** What the recording will not tell for want of a speed. */
	get warns(): string {
		const spun = this.way?.situation === 'stand_spin';
		return spun ? '' : (session.reference?.speeds.find((row) => row.key === this.speedKind)?.warns ?? '');
	}

	/** Where it is recorded: a cabin run is of no hub. */
	place(hub: string): string {
		return this.way?.place === CABIN ? CABIN : hub;
	}

	choose(key: string) {
		this.capture = key;
		const way = this.way;
		if (!way) return;
		this.sensor = way.sensor as 'clip' | 'air';
		if (!way.speed.includes(this.speedKind)) this.states(way.speed[0] as Kind);
	}

	/** Say what is known of the speed; a figure of another kind, eight turns for eight km/h, does not carry over. */
	states(kind: Kind) {
		if (kind !== this.speedKind) this.speed = null;
		this.speedKind = kind;
	}

	/** On a practice vehicle nothing but the simulated pickup hears what is hidden; it turns the wheel at a known speed. */
	practise() {
		this.source = 'simulated';
		if (this.speedKind !== 'unknown' || localStorage.getItem(this.#key)) return;
		this.speedKind = 'wheel';
		this.speed = session.reference?.played_turns_per_s ?? null;
	}

	keep() {
		const { source, capture, sensor, sameGain, speedKind, speed } = this;
		localStorage.setItem(this.#key, JSON.stringify({ source, capture, sensor, sameGain, speedKind, speed }));
	}

	get speedWrong(): string | undefined {
		if (this.speedKind === 'profile')
			return this.points.length ? undefined : 'Choose the speed log first, or “not known”.';
		if (!FIGURES.includes(this.speedKind) || (this.speed ?? 0) > 0) return undefined;
		return 'Give a figure above zero, or choose “not known”.';
	}

	/** The fields that go with the sound. Levels compare only within one gain group, so another source is another group. */
	of(hub: string, afterRepair: boolean, run: Run = { marks: [], taps: [], seconds: 0 }): Schemas['MadeIn'] {
		const value = this.speed ?? 0;
		const roadKmh = this.speedKind === 'road' ? kmh(value) : null;
		const speeds: Record<Kind, Schemas['SpeedIn']> = {
			road: { kind: 'road', kmh: roadKmh },
			wheel: { kind: 'wheel', turns_per_s: value },
			counted: { kind: 'counted', turns: value },
			profile: { kind: 'profile', points: this.points },
			marks:
				run.taps.length >= (session.reference?.least_taps ?? 0)
					? { kind: 'marks', times_s: run.taps }
					: { kind: 'unknown' },
			unknown: { kind: 'unknown' }
		};
		return {
			place: this.place(hub),
			sensor: this.sensor,
			situation: (this.way?.situation ?? 'stand_driven') as Schemas['MadeIn']['situation'],
			gain_group: this.sameGain ? this.source : '',
			speed: speeds[this.speedKind],
			segments: stretches(run.marks, run.seconds, roadKmh),
			after_repair: afterRepair
		};
	}
}
