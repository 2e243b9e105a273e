import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Schemas } from '$lib/api/client';

const kept = new Map<string, string>();
vi.stubGlobal('localStorage', {
	getItem: (key: string) => kept.get(key) ?? null,
	setItem: (key: string, value: string) => void kept.set(key, value)
});

const { session } = await import('$lib/session.svelte');
const { Made } = await import('./made.svelte');

const way = (key: string, place: string, situation: string, speed: string[]) =>
	({
		key,
		place,
		situation,
		speed,
		sensor: place === 'cabin' ? 'air' : 'clip',
		marks: []
	}) as unknown as Schemas['CaptureOut'];

beforeEach(() => {
	kept.clear();
	session.reference = {
		least_taps: 3,
		captures: [
			way('stand_driven', 'hub', 'stand_driven', ['wheel', 'marks', 'unknown']),
			way('run_down', 'hub', 'stand_spin', ['unknown', 'marks']),
			way('road_cabin', 'cabin', 'road', ['road', 'profile', 'unknown'])
		],
		quantities: [
			{
				key: 'speed',
				label: 'Speed',
				units: [{ key: 'kmh', label: 'km/h', factor: 1 / 3.6, offset: 0, decimals: 0 }]
			}
		]
	} as unknown as Schemas['ReferenceOut'];
});

describe('Made', () => {
	it('says that a cabin run is of no hub, and takes its pickup and speed from the test', () => {
		const made = new Made('case');
		made.speedKind = 'wheel';
		made.choose('road_cabin');
		expect([made.place('A1L'), made.sensor, made.speedKind]).toEqual(['cabin', 'air', 'road']);
	});

	it('turns marks into stretches at the stated road speed', () => {
		const made = new Made('case');
		made.choose('road_cabin');
		made.states('road');
		made.speed = 80 / 3.6;
		const run = { marks: [{ at: 2, state: 'left' as const }], taps: [], seconds: 9 };
		expect(made.of('A1L', false, run).segments).toEqual([
			{ start_s: 2, end_s: 9, state: 'left', speed_kmh: 80, surface: '' }
		]);
	});

	it('gives taps as marks, and an unknown speed where there are too few', () => {
		const made = new Made('case');
		made.speedKind = 'marks';
		const run = (taps: number[]) => made.of('A1L', false, { marks: [], taps, seconds: 9 }).speed;
		expect(run([1, 2, 3])).toEqual({ kind: 'marks', times_s: [1, 2, 3] });
		expect(run([1, 2])).toEqual({ kind: 'unknown' });
	});

	it('asks for what is missing', () => {
		const made = new Made('case');
		made.speedKind = 'wheel';
		expect(made.speedWrong).toContain('above zero');
		made.speed = 8.5;
		expect(made.speedWrong).toBeUndefined();
		made.speedKind = 'profile';
		expect(made.speedWrong).toContain('speed log');
	});

	it('takes no turns for kilometres an hour', () => {
		const made = new Made('case');
		made.states('wheel');
		made.speed = 8;
		made.states('wheel');
		expect(made.speed).toBe(8);
		made.choose('road_cabin');
		expect([made.speedKind, made.speed]).toEqual(['road', null]);
	});

	it('forgets a speed kept as text by an older page', () => {
		kept.set('made-case', JSON.stringify({ speedKind: 'wheel', speed: '8,5' }));
		expect(new Made('case').speed).toBeNull();
	});

	it('is set up once for four corners', () => {
		const made = new Made('case');
		made.choose('run_down');
		made.keep();
		expect(new Made('case').capture).toBe('run_down');
		expect(new Made('other').capture).toBe('stand_driven');
	});
});
