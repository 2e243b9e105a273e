import { describe, expect, it } from 'vitest';
import type { Schemas } from '$lib/api/client';
import { told } from './weeks';

const week = (n: number, some: Partial<Schemas['WeekOut']> = {}): Schemas['WeekOut'] => ({
	begins: `2027-01-${String(4 + 7 * n).padStart(2, '0')}`,
	looks: 0,
	jobs: 0,
	carried: 0,
	there_are: 2700,
	share: 0,
	...some
});

describe('the weeks as they are told', () => {
	it('says of a week that is over that its work goes into the next', () => {
		const [first, second] = told([
			week(0, { jobs: 600, there_are: 0, share: null }),
			week(1, { carried: 600 })
		]);
		expect(first?.full).toBe(true);
		expect(first?.words).toBe('jobs 10.0 h: no working hours are left, so it goes into the week after');
		expect([second?.full, second?.words]).toEqual([false, 'carried over 10.0 h']);
	});
	it('says by how much a week is too full', () => {
		const [first] = told([week(0, { jobs: 3000, looks: 60, share: 1.1 })]);
		expect(first?.words).toBe(
			'jobs 50.0 h, looks 1.0 h: 6.0 h more than there are, so it goes into the week after'
		);
	});
	it('draws empty weeks together, but not this and the next', () => {
		const rows = told([week(0), week(1), week(2), week(3), week(4), week(5, { looks: 20 })]);
		expect(rows.map((row) => row.weeks)).toEqual([1, 1, 3, 1]);
		expect(rows[2]?.there_are).toBe(3 * 2700);
	});
});
