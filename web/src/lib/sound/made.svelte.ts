import type { Schemas } from '$lib/api/client';
import { kmhOf } from '$lib/shown.svelte';
import { typed } from '$lib/units';

type Kind = 'road' | 'wheel' | 'counted' | 'unknown';

/** How recordings of a case are being made; remembered on this device, so that four corners are set up once. */
export class Made {
	source = $state<'microphone' | 'file' | 'simulated'>('microphone');
	sensor = $state<'clip' | 'air'>('clip');
	situation = $state<'stand_spin' | 'stand_driven' | 'road'>('stand_driven');
	sameGain = $state(true);
	speedKind = $state<Kind>('unknown');
	speed = $state('');

	constructor(private readonly caseId: string) {
		const kept = localStorage.getItem(this.#key);
		if (kept) Object.assign(this, JSON.parse(kept));
	}

	get #key() {
		return `made-${this.caseId}`;
	}

	keep() {
		const { source, sensor, situation, sameGain, speedKind, speed } = this;
		localStorage.setItem(
			this.#key,
			JSON.stringify({ source, sensor, situation, sameGain, speedKind, speed })
		);
	}

	get speedWrong(): string | undefined {
		if (this.speedKind === 'unknown' || typed(this.speed) > 0) return undefined;
		return 'Give a figure above zero, or choose “not known”.';
	}

	/** The fields that go with the sound. Levels compare only within one gain group, so another source is another group. */
	of(place: string, afterRepair: boolean): Schemas['MadeIn'] {
		const value = typed(this.speed);
		const speeds: Record<Kind, Schemas['SpeedIn']> = {
			road: { kind: 'road', kmh: kmhOf(value) },
			wheel: { kind: 'wheel', turns_per_s: value },
			counted: { kind: 'counted', turns: value },
			unknown: { kind: 'unknown' }
		};
		return {
			place,
			sensor: this.sensor,
			situation: this.situation,
			gain_group: this.sameGain ? this.source : '',
			speed: speeds[this.speedKind],
			after_repair: afterRepair
		};
	}
}
