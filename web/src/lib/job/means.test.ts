import { describe, expect, it } from 'vitest';
import { clock, hourNow, minutes, remaining, ticking } from './means';

describe('when a job will be done', () => {
	it('is told by the clock, with the days between', () => {
		expect(clock(0, 8)).toBe('08:00');
		expect(clock(95, 8)).toBe('09:35');
		expect(clock(1440 + 30, 8)).toBe('tomorrow 08:30');
		expect(clock(3 * 1440, 7.5)).toBe('in 3 days, 07:30');
	});
	it('reads the hour of the device', () => {
		expect(hourNow(new Date(2026, 1, 3, 14, 30))).toBe(14.5);
	});
	it('says minutes as people do', () => {
		expect([25, 60, 70.4, 125].map(minutes)).toEqual(['25 min', '1 h', '1 h 10', '2 h 05']);
	});
});

describe('a wait', () => {
	const began = '2026-02-03T10:00:00Z';
	const at = (minute: number) => Date.parse(began) + minute * 60_000;
	it('runs down to nothing and no further', () => {
		expect(remaining(began, 30, at(10))).toBe(1200);
		expect(remaining(began, 30, at(45))).toBe(0);
		expect(ticking(1200)).toBe('20:00');
		expect(ticking(61.2)).toBe('1:02');
	});
});
