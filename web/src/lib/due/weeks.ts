import type { Schemas } from '$lib/api/client';
import { day } from '$lib/dates';

type Row = Schemas['PlannedOut'];
const DAY_MS = 86_400_000;

/** The Monday of a day, as a date at noon: no clock change moves it. */
function monday(on: Date): Date {
	const noon = new Date(on.getFullYear(), on.getMonth(), on.getDate(), 12);
	return new Date(noon.getTime() - ((noon.getDay() + 6) % 7) * DAY_MS);
}
/** An ISO date as that day here, whatever the zone. */
const here = (iso: string) => new Date(`${iso}T12:00:00`);

/** What is due, by the week it is expected in: what is overdue first, what nobody can date last. Rows come in order. */
export function byWeek(rows: Row[], today: Date): { label: string; rows: Row[] }[] {
	const groups: { label: string; rows: Row[] }[] = [];
	for (const row of rows) {
		const label = labelOf(row, today);
		const last = groups.find((group) => group.label === label);
		if (last) last.rows.push(row);
		else groups.push({ label, rows: [row] });
	}
	return groups;
}

function labelOf(row: Row, today: Date): string {
	if (row.state === 'overdue') return 'Overdue';
	if (!row.expected_on) return 'When, nobody can say';
	const week = monday(here(row.expected_on));
	const ahead = Math.round((week.getTime() - monday(today).getTime()) / (7 * DAY_MS));
	if (ahead <= 0) return 'This week';
	if (ahead === 1) return 'Next week';
	return `Week of ${day(week.toISOString())}`;
}
