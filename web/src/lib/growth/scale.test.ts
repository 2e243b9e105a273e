import { describe, expect, it } from 'vitest';
import type { Schemas } from '$lib/api/client';
import { counts, frame, line, step } from './scale';

const at = (day: number) => new Date(Date.UTC(2025, 0, 1 + day)).toISOString();
const series = (over: Partial<Schemas['SeriesOut']> = {}): Schemas['SeriesOut'] => ({
	hub: 'A1L',
	key: 'play',
	label: 'End play',
	unit: 'mm',
	source: '',
	limit: 0.125,
	grows: 1,
	points: [0, 100, 200].map((day) => ({ at: at(day), value: 0.05 + day / 10_000, case: 'c' })),
	breaks: [],
	trend: null,
	mate: '',
	beside_mate: '',
	...over
});
const trend = (over: object) =>
	({
		visits: 3,
		since: at(0),
		slope: 0.0365,
		low: 0,
		high: 0.1,
		outside: false,
		words: '',
		...over
	}) as never;

describe('the paper of a series', () => {
	it('has room for the limit, and for the range to act by, but not for the next century', () => {
		const drawn = frame(
			series({ trend: trend({ soonest_on: '2025-12-01', latest_on: '2099-01-01' }) }),
			undefined
		);
		expect(drawn.high).toBeGreaterThan(0.125);
		expect(new Date(drawn.to).getFullYear()).toBeLessThan(2028);
		expect(drawn.y(drawn.high)).toBeLessThan(drawn.y(drawn.low));
	});
	it('is drawn for one figure alone, and for a flat one', () => {
		const one = frame(series({ points: [{ at: at(0), value: 0, case: 'c' }], limit: null }), undefined);
		expect(Number.isFinite(one.x(one.from)) && Number.isFinite(one.y(0))).toBe(true);
	});
	it('is divided as people read it', () => {
		expect([step(0.125, 5), step(1, 5), step(37, 5)]).toEqual([0.05, 0.2, 10]);
	});
});

describe('the line', () => {
	it('goes through what was measured since the last repair', () => {
		const mended = series({ breaks: [at(150)], trend: trend({ slope: 0 }) });
		expect(mended.points.map((one) => counts(mended, one.at))).toEqual([false, false, true]);
		expect(line(mended)?.(0)).toBeCloseTo(0.07);
		expect(line(series())).toBeNull();
	});
});
