import { describe, expect, it } from 'vitest';
import { figure, fromSi, toSi, typed, type Unit } from './units';

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

describe('typed', () => {
	it.each([
		['0.21', 0.21],
		['0,21', 0.21],
		[' .5 ', 0.5],
		['-0.1', -0.1]
	])('reads %s', (text, value) => expect(typed(text)).toBe(value));

	it.each(['', 'a lot', '1.2.3', '12mm', '1e9'])('does not read “%s”', (text) => {
		expect(typed(text)).toBeNaN();
	});
});
