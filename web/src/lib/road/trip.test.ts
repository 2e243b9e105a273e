import { describe, expect, it } from 'vitest';
import { judged, latest } from './trip';

const means = (here: string, mate: string, level: string) => ({ here, mate, level, do: '', why: '' });
const both = [
	means('hot', '', 'stop'),
	means('warm', 'cold', 'look'),
	means('warm', '', 'look'),
	means('cold', 'warm', 'good'),
	means('cold', '', 'good')
];
const hubs = [
	{ id: 'A1L', words: 'left', mate: 'A1R', means: both },
	{ id: 'A1R', words: 'right', mate: 'A1L', means: both }
];

describe('a stop', () => {
	it('takes the last feeling of each hub', () => {
		expect(
			latest([
				{ hub: 'A1L', felt: 'cold' },
				{ hub: 'A1L', felt: 'warm' }
			])
		).toEqual({ A1L: 'warm' });
	});
	it('looks each hub up beside its mate, the gravest first', () => {
		const found = judged(hubs, { A1L: 'cold', A1R: 'warm' });
		expect(found.map((one) => [one.hub.id, one.means.level])).toEqual([
			['A1R', 'look'],
			['A1L', 'good']
		]);
		expect(judged(hubs, { A1L: 'hot' }).map((one) => one.means.level)).toEqual(['stop']);
		expect(judged(hubs, {})).toEqual([]);
	});
});
