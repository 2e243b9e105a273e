/** What a job has to work with today, as it is said on this device. */
export interface Means {
	hands?: number;
	parts_in_h?: number;
	press_in_h?: number;
}

const key = (caseId: string) => `job-means-${caseId}`;

export function keptMeans(caseId: string): Means {
	try {
		return JSON.parse(localStorage.getItem(key(caseId)) ?? '{}') as Means;
	} catch {
		return {};
	}
}

export const keepMeans = (caseId: string, means: Means): void =>
	localStorage.setItem(key(caseId), JSON.stringify(means));

/** The hour of the day on this device's clock, with its minutes as a part. */
export function hourNow(now = new Date()): number {
	return now.getHours() + now.getMinutes() / 60;
}

const MINUTES_A_DAY = 1440;

/** A time of the plan, in minutes from the opening of the first day, as the clock will show it; with the days that lie between. */
export function clock(minutes: number, opens_h: number): string {
	const at = Math.round(minutes + opens_h * 60);
	const [days, of] = [
		Math.floor(minutes / MINUTES_A_DAY),
		((at % MINUTES_A_DAY) + MINUTES_A_DAY) % MINUTES_A_DAY
	];
	const time = `${String(Math.floor(of / 60)).padStart(2, '0')}:${String(of % 60).padStart(2, '0')}`;
	if (!days) return time;
	return days === 1 ? `tomorrow ${time}` : `in ${days} days, ${time}`;
}

/** Minutes in words: 25 min, 1 h 10. */
export function minutes(value: number): string {
	const whole = Math.round(value);
	if (whole < 60) return `${whole} min`;
	const rest = whole % 60;
	return rest ? `${Math.floor(whole / 60)} h ${String(rest).padStart(2, '0')}` : `${whole / 60} h`;
}

/** What is left of a wait, from when it began: never less than nothing. */
export function remaining(began: string, wait: number, now: number): number {
	return Math.max(wait * 60 - (now - Date.parse(began)) / 1000, 0);
}

/** Seconds as a timer shows them. */
export function ticking(seconds: number): string {
	const whole = Math.ceil(seconds);
	return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`;
}
