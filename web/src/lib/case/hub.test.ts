import { describe, expect, it, vi } from 'vitest';

vi.mock('$app/state', () => ({ page: { url: new URL('http://here/') } }));
const { walked } = await import('./hub.svelte');

const hubs = (...ids: string[]) =>
	ids.map((id) => ({ id, side: { L: 'left', R: 'right', C: 'centre' }[id[2] ?? ''] ?? '' }));

describe('the order of walking', () => {
	it('goes across the front, down the right side and up the left one', () => {
		expect(walked(hubs('A1L', 'A1R', 'A2L', 'A2R'))).toEqual(['A1L', 'A1R', 'A2R', 'A2L']);
		expect(walked(hubs('A1L', 'A1R', 'A2L', 'A2R', 'A3L', 'A3R'))).toEqual([
			'A1L',
			'A1R',
			'A2R',
			'A3R',
			'A3L',
			'A2L'
		]);
	});

	it('passes every hub once, whatever stands where', () => {
		expect(walked(hubs('A1C', 'A2C'))).toEqual(['A1C', 'A2C']);
		expect(walked(hubs('A1L', 'A1R', 'A2C'))).toEqual(['A1L', 'A1R', 'A2C']);
		expect(walked(hubs('A1C', 'A2L', 'A2R'))).toEqual(['A1C', 'A2L', 'A2R']);
		expect(walked(hubs('A1LO', 'A1LI', 'A1RI', 'A1RO'))).toEqual(['A1LO', 'A1RI', 'A1RO', 'A1LI']);
		expect(walked([])).toEqual([]);
	});
});
