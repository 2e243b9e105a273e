import { describe, expect, it } from 'vitest';
import type { Schemas } from '$lib/api/client';
import { toBody, toDraft } from './policy';

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
	changed_by: null,
	changed_at: null
};

describe('a policy as typed', () => {
	const inches = (mm: number) => (mm / 25.4).toFixed(4);
	const mmOf = (shown: number) => shown * 25.4;
	const draft = toDraft(policy, inches);

	it('fills in only what the workshop entered', () => {
		expect(draft.limits.taper_castle?.most).toBe('0.0079');
		expect(draft.limits.hub_unit).toEqual({ least: '', most: '', source: '' });
		expect(draft.figures).toEqual({ hour: '700', day: '' });
	});

	it('sends what it was given, in millimetres, and nothing for empty fields', () => {
		const body = toBody(draft, policy, inches, mmOf);
		expect(Object.keys(body.limits ?? {})).toEqual(['taper_castle']);
		expect(body.limits?.taper_castle?.most_mm).toBe(0.2);
		expect(body.prices?.figures).toEqual({ hour: 700 });
		expect(body.schools).toEqual({ sides: 'both' });
	});

	it('never makes a number out of words', () => {
		const body = toBody({ ...draft, figures: { hour: 'a lot' } }, policy, inches, mmOf);
		expect(body.prices?.figures?.hour).toBeNaN();
	});
});
