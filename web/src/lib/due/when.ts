import type { Schemas } from '$lib/api/client';
import { day } from '$lib/dates';
import { distance } from '$lib/shown.svelte';

type Planned = Pick<
	Schemas['PlannedOut'],
	'due_on' | 'after_km' | 'due_km' | 'after_hours' | 'due_hours' | 'expected_on' | 'soonest_on' | 'latest_on'
>;

/** By when, whichever comes first: a date, what the odometer will show, hours of work. */
export function byWhen(row: Planned): string {
	const km =
		row.due_km !== null ? `at ${distance(row.due_km)}` : row.after_km && `after ${distance(row.after_km)}`;
	// Hours stand beside the distance that they were taken for; they count where only hours are read.
	const hours = row.due_hours !== null ? `at ${Math.round(row.due_hours)} h` : '';
	return [row.due_on && `by ${day(row.due_on)}`, km, hours].filter(Boolean).join(' or ');
}

/** When that is by how much it is driven, as the range that it is; nothing where the date itself decides. */
export function expected(row: Planned): string {
	if (!row.expected_on || row.expected_on === row.due_on) return '';
	if (!row.soonest_on) return `about ${day(row.expected_on)} as it is driven, by a guess`;
	const latest = row.latest_on ? `to ${day(row.latest_on)}` : 'on';
	return `about ${day(row.expected_on)} as it is driven (${day(row.soonest_on)} ${latest})`;
}
