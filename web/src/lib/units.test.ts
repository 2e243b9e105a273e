import { describe, expect, it } from 'vitest';
import { figure, fromSi, inField, measured, toSi, type Unit } from './units';

const inch: Unit = { key: 'in', label: 'in', factor: 0.0254, offset: 0, decimals: 4 };
const fahrenheit: Unit = { key: 'f', label: '°F', factor: 5 / 9, offset: 255.3722222222222, decimals: 0 };

describe('units', () => {
	// TMC RP 618 as both its figures are usually given, from memory: 0.001 to 0.005 in is 0.025 to 0.125 mm.
	it('shows the usual play window in inches', () => {
		expect(figure(0.000025, inch)).toBe('0.0010');
		expect(figure(0.000127, inch)).toBe('0.0050');
	});

	it('turns the boiling point of water into Fahrenheit and back', () => {
		expect(fromSi(373.15, fahrenheit)).toBeCloseTo(212, 6);
		expect(toSi(212, fahrenheit)).toBeCloseTo(373.15, 6);
	});
});

describe('what stands in a field', () => {
	const mm: Unit = { key: 'mm', label: 'mm', factor: 0.001, offset: 0, decimals: 3 };
	it('has no more digits than it needs, and nothing where nothing is known', () => {
		expect([inField(0.00005, mm), inField(0.025, mm), inField(0, mm), inField(null, mm)]).toEqual([
			'0.05',
			'25',
			'0',
			''
		]);
	});

	it('comes back in another measure as it was given', () => {
		const given = [0.05, 0.2, 0.1, 7.938, 1234.567, 0.0254];
		expect(given.map((value) => measured(value / 1000, 0.001))).toEqual(given);
		expect(measured(toSi(41.5, { ...fahrenheit, factor: 1, offset: 273.15 }), 1, 273.15)).toBe(41.5);
	});
});
