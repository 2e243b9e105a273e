import { describe, expect, it } from 'vitest';
import { glyphs } from './glyphs';
import { nextPart, tapped } from './draft';

const clean = { key: 'clean', shuts_out: ['pits', 'blue'] };
const pits = { key: 'pits', shuts_out: ['clean'] };

describe('tapped', () => {
	it('adds and takes away', () => {
		expect(tapped([], pits)).toEqual(['pits']);
		expect(tapped(['pits', 'blue'], pits)).toEqual(['blue']);
	});

	it('lets go what the trade’s table says cannot be beside it', () => {
		expect(tapped(['clean', 'turns_gritty'], pits)).toEqual(['turns_gritty', 'pits']);
		expect(tapped(['pits', 'blue'], clean)).toEqual(['clean']);
	});
});

describe('nextPart', () => {
	const parts = ['cap', 'pin', 'nut'];
	it('goes on to what was not looked at, round the corner too', () => {
		expect(nextPart(parts, 'cap', (part) => part === 'pin')).toBe('nut');
		expect(nextPart(parts, 'nut', (part) => part === 'nut')).toBe('cap');
		expect(nextPart(parts, 'nut', () => true)).toBe('cap');
	});
});

describe('glyphs', () => {
	it('draws shapes that stay on their field', () => {
		for (const [key, glyph] of Object.entries(glyphs)) {
			expect(glyph.shape, key).toMatch(/^M/);
			for (const [x, y] of glyph.spots ?? []) expect(x > 0 && x < 96 && y > 0 && y < 64, key).toBe(true);
		}
	});
});
