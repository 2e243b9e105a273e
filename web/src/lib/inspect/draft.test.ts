import { describe, expect, it } from 'vitest';
import { glyphs } from './glyphs';
import { nextPart, tapped } from './draft';

const finds = [
	{ key: 'clean', fine: true },
	{ key: 'turns_smooth', fine: true },
	{ key: 'turns_gritty', fine: false },
	{ key: 'pits', fine: false },
	{ key: 'blue', fine: false }
];
const find = (key: string) => finds.find((one) => one.key === key) as (typeof finds)[number];

describe('tapped', () => {
	it('adds and takes away', () => {
		expect(tapped([], find('pits'), finds)).toEqual(['pits']);
		expect(tapped(['pits', 'blue'], find('pits'), finds)).toEqual(['blue']);
	});

	it('never keeps fine beside damage', () => {
		expect(tapped(['clean'], find('pits'), finds)).toEqual(['pits']);
		expect(tapped(['pits', 'blue'], find('clean'), finds)).toEqual(['clean']);
	});

	it('keeps one feel in the hand beside what is seen', () => {
		expect(tapped(['pits'], find('turns_smooth'), finds)).toEqual(['pits', 'turns_smooth']);
		expect(tapped(['pits', 'turns_smooth'], find('turns_gritty'), finds)).toEqual(['pits', 'turns_gritty']);
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
