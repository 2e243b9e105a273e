import { describe, expect, it } from 'vitest';
import type { Schemas } from '$lib/api/client';
import { toBody, toDraft, unfinished } from './policy';

const policy: Schemas['PolicyOut'] = {
	schools: [{ key: 'sides', label: 'One side or both', chosen: 'both', options: [] }],
	limits: [
		{ design: 'taper_castle', label: 'Tapers', least_mm: 0.05, most_mm: 0.2, source: 'manual', own: true },
		{ design: 'hub_unit', label: 'Unit', least_mm: 0, most_mm: 0.05, source: 'memory', own: false }
	],
	currency: 'Kr',
	figures: [
		{ key: 'hour', label: 'An hour', unit: 'money', value: 700, example: false },
		{ key: 'day', label: 'A day', unit: 'money', value: 30, example: true }
	],
	shop: { hands: 2, press_t: null, opens_h: 7.5, closes_h: 16, wrenches: [], shims: [{ mm: 0.5, count: 3 }] },
	changed_by: null,
	changed_at: null,
	revision: 3
};

describe('a policy as typed', () => {
	const draft = toDraft(policy);

	it('fills in only what the workshop entered', () => {
		expect(draft.limits.taper_castle?.most).toBe(0.0002);
		expect(draft.limits.hub_unit).toEqual({ least: null, most: null, source: '' });
		expect(draft.figures).toEqual({ hour: 700, day: null });
	});

	it('sends what it was given, in millimetres, and nothing for empty fields', () => {
		const body = toBody(draft, policy.revision, 'c');
		expect([body.revision, body.change]).toEqual([3, 'c']);
		expect(Object.keys(body.limits ?? {})).toEqual(['taper_castle']);
		expect(body.limits?.taper_castle).toEqual({ least_mm: 0.05, most_mm: 0.2, source: 'manual' });
		expect(body.prices?.figures).toEqual({ hour: 700 });
		expect(body.schools).toEqual({ sides: 'both' });
	});

	it('does not drop half a limit without a word', () => {
		const half = { ...draft, limits: { hub_unit: { least: 0.00005, most: null, source: '' } } };
		expect(unfinished(half)).toContain('most');
		expect(unfinished(draft)).toBe('');
	});
});
