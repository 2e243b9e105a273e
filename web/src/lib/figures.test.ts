import { describe, expect, it } from 'vitest';
import { read } from './figures';
import { fixed, type Unit } from './units';

const mm: Unit = { key: 'mm', label: 'mm', factor: 0.001, offset: 0, decimals: 3 };
const inch: Unit = { key: 'in', label: 'in', factor: 0.0254, offset: 0, decimals: 4 };
const celsius: Unit = { key: 'c', label: '°c', factor: 1, offset: 273.15, decimals: 0 };
const km = fixed('km', 0, 1000);
const si = (text: string, unit: Unit, units?: Unit[]) => {
	const found = read(text, unit, units);
	return found.is === 'figure' ? found.si : found.is;
};

describe('read', () => {
	it.each([
		['0.21', 0.21],
		['0,21', 0.21],
		[' .5 ', 0.5],
		[',5', 0.5],
		['-0.1', -0.1],
		['−0,1', -0.1],
		['+2', 2],
		['12.', 12],
		['0,050', 0.05],
		['1,250', 1.25],
		['1.250', 1.25],
		['1,250.5', 1250.5],
		['1.250,5', 1250.5],
		['1 250,5', 1250.5],
		['1’250.5', 1250.5]
	])('reads %s mm', (text, value) => expect(si(text, mm)).toBeCloseTo(value / 1000, 12));

	it.each([
		['240,000', 240000],
		['240.000', 240000],
		['240 000', 240000],
		['1,240,000', 1240000],
		['240000', 240000],
		['0,5', 0.5],
		['24,5', 24.5]
	])('reads %s km', (text, value) => expect(si(text, km)).toBeCloseTo(value * 1000, 6));

	it.each(['-', '.', ',', '1,2,3', '1.2.3', '1,25,000', '1 2', '12 , 5'])(
		'takes “%s” for a part of a figure',
		(text) => expect(si(text, mm)).toBe('part')
	);

	it.each(['a', 'about 13', '12x', '1e9', '12 mm 3', 'Infinity', '--1', '0x10', '12 furlong', '٣'])(
		'takes “%s” for no figure',
		(text) => expect(si(text, mm)).toBe('text')
	);

	it('reads a pasted unit of the same quantity, and no other', () => {
		expect(si('0.05mm', inch, [mm, inch])).toBeCloseTo(0.00005, 12);
		expect(si('0.002 in', mm, [mm, inch])).toBeCloseTo(0.0000508, 12);
		expect(si('0.002 km', mm, [mm, inch])).toBe('text');
		expect(si('-5 °C', celsius)).toBeCloseTo(268.15, 9);
	});

	it('says what it read where the marks could be read otherwise', () => {
		const marked = (text: string) => {
			const found = read(text, km);
			return found.is === 'figure' && found.marked;
		};
		expect(['240000', '240,000', '240 000', '0.5'].map(marked)).toEqual([false, true, true, false]);
	});

	it('knows nothing from an empty field', () => expect(si('  ', mm)).toBe('empty'));
});
