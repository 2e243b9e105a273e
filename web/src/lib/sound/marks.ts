import type { Schemas } from '$lib/api/client';

export type Segment = Schemas['SegmentIn'];
export type State = Segment['state'];
export type Surface = NonNullable<Segment['surface']>;
export interface Mark {
	at: number;
	state: State;
	surface?: Surface;
}

const SHORTEST_S = 0.2;

/** Marks pressed while recording, each the beginning of a stretch, to stretches; a slip of the finger leaves none. */
export function stretches(marks: Mark[], end: number, speedKmh: number | null = null): Segment[] {
	const sorted = [...marks].sort((a, b) => a.at - b.at);
	return sorted
		.map((mark, n) => ({
			start_s: mark.at,
			end_s: sorted[n + 1]?.at ?? end,
			state: mark.state,
			speed_kmh: speedKmh,
			surface: mark.surface ?? ''
		}))
		.filter((stretch) => stretch.end_s - stretch.start_s >= SHORTEST_S);
}

/** The stretch that covers most of a chosen one: what is not said anew of it stays as it was. */
export function under(segments: Segment[], start: number, end: number): Segment | undefined {
	const shared = (s: Segment) => Math.min(s.end_s, end) - Math.max(s.start_s, start);
	return [...segments].sort((a, b) => shared(b) - shared(a)).find((s) => shared(s) > 0);
}

/** Set, move or remove one stretch among others: what it covers is cut out of its neighbours. */
export function laid(others: Segment[], one: Segment): Segment[] {
	const cut = others.flatMap((other) => {
		const before = { ...other, end_s: Math.min(other.end_s, one.start_s) };
		const after = { ...other, start_s: Math.max(other.start_s, one.end_s) };
		return [before, after].filter((part) => part.end_s - part.start_s >= SHORTEST_S);
	});
	return [...cut, one].sort((a, b) => a.start_s - b.start_s);
}
