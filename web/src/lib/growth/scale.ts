import { writing } from '$lib/language';
import type { Schemas } from '$lib/api/client';

type Series = Schemas['SeriesOut'];
export interface Frame {
	from: number;
	to: number;
	low: number;
	high: number;
	x: (ms: number) => number;
	y: (value: number) => number;
	ticks: number[];
	years: { at: number; words: string }[];
}
export const WIDE = 640;
export const HIGH = 260;
const [LEFT, RIGHT, TOP, BOTTOM] = [58, 14, 26, 34];
const DAY = 86_400_000;
const ms = (iso: string) => new Date(iso).getTime();

/** Steps that people read: 1, 2 or 5 of a power of ten. */
export function step(span: number, most: number): number {
	const rough = span / most;
	const power = 10 ** Math.floor(Math.log10(rough));
	return [1, 2, 5, 10].map((n) => n * power).find((n) => n >= rough) ?? rough;
}

/** Where a series and its range to act by lie on the paper. No more is drawn ahead than was seen, or a year. */
export function frame(series: Series, mate: Series | undefined): Frame {
	const points = [...series.points, ...(mate?.points ?? [])];
	const times = [...points.map((one) => ms(one.at)), ...series.breaks.map(ms)];
	const [first, last] = [Math.min(...times), Math.max(...times)];
	const ahead = Math.max(last - first, 365 * DAY);
	const dates = [series.trend?.latest_on, series.trend?.soonest_on].flatMap((on) => (on ? [ms(on)] : []));
	const to = Math.max(last + 20 * DAY, ...dates.map((on) => Math.min(on + 20 * DAY, last + ahead)));
	const from = first - 20 * DAY;
	const values = [...points.map((one) => one.value), ...(series.limit === null ? [] : [series.limit])];
	const spread = Math.max(...values) - Math.min(...values, 0) || 1;
	const by = step(spread * 1.15, 5);
	const low = Math.min(0, Math.floor(Math.min(...values) / by) * by);
	const high = Math.ceil((Math.max(...values) + 0.05 * spread) / by) * by;
	const x = (at: number) => LEFT + ((at - from) / (to - from)) * (WIDE - LEFT - RIGHT);
	const y = (value: number) => HIGH - BOTTOM - ((value - low) / (high - low)) * (HIGH - TOP - BOTTOM);
	const ticks = Array.from({ length: Math.round((high - low) / by) + 1 }, (_, n) => low + n * by);
	return { from, to, low, high, x, y, ticks, years: quarters(from, to) };
}

/** Firsts of months to be named, no more than seven. */
function quarters(from: number, to: number): { at: number; words: string }[] {
	const months = (to - from) / (30.4 * DAY);
	const every = [1, 3, 6, 12, 24, 60].find((n) => months / n <= 7) ?? 120;
	const begin = new Date(from);
	const found = [];
	for (let n = 0; n < 400; n++) {
		const day = new Date(
			begin.getFullYear(),
			Math.ceil((begin.getMonth() + 1) / every) * every + n * every,
			1
		);
		if (day.getTime() > to) break;
		const words = day.toLocaleDateString(writing, { month: 'short', year: 'numeric' });
		found.push({ at: day.getTime(), words });
	}
	return found;
}

/** Whether a figure was measured since the last repair: what was before says nothing of what stands there now. */
export const counts = (series: Series, at: string) => series.breaks.every((on) => ms(at) >= ms(on));

/** The line through what counts, by the middle slope: where it stands at a moment. */
export function line(series: Series): ((at: number) => number) | null {
	const slope = series.trend?.slope;
	const own = series.points.filter((one) => counts(series, one.at));
	if (slope === null || slope === undefined || !own.length) return null;
	const aYear = 365.25 * DAY;
	const rests = own.map((one) => one.value - (slope * ms(one.at)) / aYear).sort((a, b) => a - b);
	const middle = ((rests[(rests.length - 1) >> 1] ?? 0) + (rests[rests.length >> 1] ?? 0)) / 2;
	return (at) => middle + (slope * at) / aYear;
}
