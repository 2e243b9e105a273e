import type { Schemas } from '$lib/api/client';
import { day } from '$lib/dates';
import { decimal } from '$lib/numbers';

type Week = Schemas['WeekOut'];
export interface Row extends Week {
	label: string;
	minutes: number;
	full: boolean;
	/** How many weeks it stands for. */
	weeks: number;
	words: string;
}

const hours = (minutes: number) => `${decimal(minutes / 60, 1)} h`;

function words(week: Week, minutes: number): string {
	const parts = [
		week.jobs ? `jobs ${hours(week.jobs)}` : '',
		week.looks ? `looks ${hours(week.looks)}` : '',
		week.carried ? `carried over ${hours(week.carried)}` : ''
	];
	const planned = parts.filter(Boolean).join(', ') || 'nothing planned';
	const over = minutes - week.there_are;
	if (over <= 0) return planned;
	const rest = week.there_are ? `${hours(over)} more than there are` : 'no working hours are left';
	return `${planned}: ${rest}, so it goes into the week after`;
}

/** The weeks as they are shown: what is taken of each; empty ones that follow each other are one. */
export function told(weeks: Week[]): Row[] {
	const rows = weeks.map((week, n) => {
		const minutes = week.looks + week.jobs + week.carried;
		const label = n === 0 ? 'The rest of this week' : n === 1 ? 'Next week' : `From ${day(week.begins)}`;
		return { ...week, label, minutes, full: minutes > week.there_are, words: words(week, minutes), weeks: 1 };
	});
	return rows.reduce<Row[]>((shown, row) => {
		const last = shown.at(-1);
		if (last && shown.length > 2 && !last.minutes && !row.minutes) {
			shown[shown.length - 1] = { ...last, weeks: last.weeks + 1, there_are: last.there_are + row.there_are };
			return shown;
		}
		return [...shown, row];
	}, []);
}
