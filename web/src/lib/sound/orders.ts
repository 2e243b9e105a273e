import { api, ask, type Schemas } from '$lib/api/client';
import { session } from '$lib/session.svelte';
import type { Curve, Place } from './Curves.svelte';
import { standingFamilies } from './families';

type Recording = Schemas['RecordingOut'];
export interface BandOfOnesOwn {
	low_hz: number;
	high_hz: number;
}

/** The order spectrum of a recording, in the band found or in one of one's own. */
export async function fetchCurve(row: Recording, band?: BandOfOnesOwn): Promise<Curve> {
	const params = { path: { recording_id: row.id }, query: band ?? {} };
	const found = await ask(api.GET('/api/recordings/{recording_id}/plot', { params }));
	return { name: row.place, x: found.orders, y: found.db };
}

/** The families worth naming on a plot: those that stand, each with its harmonics. */
export function named(row: Recording): Place[] {
	return standingFamilies(row).flatMap((family, n) =>
		family.lines
			.filter((line) => line.name.length <= 2)
			.map((line) => ({
				x: line.order,
				row: n,
				words: line.name === '1×' ? session.words('line_kinds', family.kind) : line.name
			}))
	);
}
