import { describe, expect, it } from 'vitest';
import type { Schemas } from '$lib/api/client';
import { byWeek } from './weeks';

const row = (expected_on: string | null, state = 'later') =>
	({ expected_on, state }) as Schemas['PlannedOut'];
const saturday = new Date(2026, 10, 28, 23, 30);

describe('what is due, by week', () => {
	it('begins on Mondays, and says this and the next week in words', () => {
		const rows = [
			row('2026-11-20', 'overdue'),
			row('2026-11-29'),
			row('2026-11-30'),
			row('2026-12-07'),
			row(null)
		];
		const found = byWeek(rows, saturday);
		expect(found.map((group) => [group.label.slice(0, 9), group.rows.length])).toEqual([
			['Overdue', 1],
			['This week', 1],
			['Next week', 1],
			['Week of D', 1],
			['When, nob', 1]
		]);
	});
	it('keeps what is passed by distance among the overdue, wherever it stands in the list', () => {
		const found = byWeek(
			[row('2026-11-20', 'overdue'), row('2026-11-28', 'due'), row('2026-11-28', 'overdue')],
			saturday
		);
		expect(found.map((group) => group.rows.length)).toEqual([2, 1]);
	});
});
