import { describe, expect, it } from 'vitest';
import { laid, stretches, under } from './marks';

describe('stretches', () => {
	it('runs each mark to the next, and the last to the end', () => {
		const found = stretches(
			[
				{ at: 1, state: 'straight' },
				{ at: 5, state: 'left' }
			],
			9,
			60
		);
		expect(found.map((s) => [s.start_s, s.end_s, s.state, s.speed_kmh])).toEqual([
			[1, 5, 'straight', 60],
			[5, 9, 'left', 60]
		]);
	});

	it('leaves out what a slip of the finger made', () => {
		const slip = [
			{ at: 3, state: 'left' as const },
			{ at: 3.1, state: 'right' as const }
		];
		expect(stretches(slip, 6).map((s) => s.state)).toEqual(['right']);
	});
});

describe('laid', () => {
	const whole = { start_s: 0, end_s: 10, state: 'straight' as const, speed_kmh: null, surface: '' as const };

	it('cuts a new stretch out of the one it lies in', () => {
		const bend = { start_s: 4, end_s: 6, state: 'left' as const, speed_kmh: null, surface: '' as const };
		expect(laid([whole], bend).map((s) => [s.start_s, s.end_s, s.state])).toEqual([
			[0, 4, 'straight'],
			[4, 6, 'left'],
			[6, 10, 'straight']
		]);
	});

	it('swallows what it covers', () => {
		const bend = { start_s: 0, end_s: 10, state: 'right' as const, speed_kmh: null, surface: '' as const };
		expect(laid([whole], bend)).toEqual([bend]);
	});
});

describe('surfaces', () => {
	it('go on beside the state until another is marked', () => {
		const marks = [
			{ at: 0, state: 'straight' as const, surface: 'smooth' as const },
			{ at: 4, state: 'straight' as const, surface: 'rough' as const }
		];
		expect(stretches(marks, 8).map((s) => s.surface)).toEqual(['smooth', 'rough']);
	});

	it('are laid on the stretch that covers most', () => {
		const [first, second] = [
			{ start_s: 0, end_s: 4, state: 'straight' as const, speed_kmh: 80, surface: '' as const },
			{ start_s: 4, end_s: 9, state: 'coast' as const, speed_kmh: 60, surface: '' as const }
		];
		expect(under([first, second], 3, 8)).toBe(second);
		expect(under([first], 6, 8)).toBeUndefined();
	});
});
