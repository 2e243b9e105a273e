import type { Schemas } from '$lib/api/client';
import { km, mm, ofMm } from '$lib/shown.svelte';

/** One bearing row as it is entered: lengths in metres, null where it is not known. */
export interface RowDraft {
	row: string;
	elements: number | null;
	element: number | null;
	pitch: number | null;
	/** In degrees. */
	angle: number | null;
	/** The number found for it, kept while the row stays. */
	designation?: string;
}

/** An axle as it is entered; `kept` holds hubs that differ from each other and are left as they are. */
export interface AxleDraft {
	design: string;
	wheels: string;
	driven: boolean;
	steered: boolean;
	rows: RowDraft[];
	/** Limits of end play from the vehicle's own manual, in metres, and where they stand there. */
	least: number | null;
	most: number | null;
	source?: string;
	kept?: Schemas['HubIn'][];
	/** The stored hubs, for what no field shows: their seals and which ring turns. */
	stored?: Schemas['HubOut'][];
}

/** From left to right; what each is called follows from it on the server. */
const SIDES: Record<string, Schemas['HubIn']['side'][]> = {
	'1': ['centre'],
	'2': ['left', 'right'],
	'4': ['left', 'left', 'right', 'right']
};

export const newAxle = (design: string, steered = false): AxleDraft => ({
	design,
	wheels: '2',
	driven: false,
	steered,
	rows: [],
	least: null,
	most: null
});

/** The axles that are usual for a kind of vehicle. */
export const ofKind = (kind: Schemas['KindOut']): AxleDraft[] =>
	kind.axles.map((axle) => ({
		...newAxle(axle.design, axle.steered),
		wheels: String(axle.wheels),
		driven: axle.driven
	}));

export const newRow = (n: number): RowDraft => ({
	row: n ? 'outboard' : 'inboard',
	elements: null,
	element: null,
	pitch: null,
	angle: 0
});

const bearing = (row: RowDraft): Schemas['BearingIn'] => ({
	row: row.row,
	elements: row.elements,
	element_diameter_mm: mm(row.element),
	pitch_diameter_mm: mm(row.pitch),
	contact_angle_deg: row.angle,
	designation: row.designation ?? ''
});

function hubs(axle: AxleDraft): Schemas['HubIn'][] {
	if (axle.kept) return axle.kept;
	const sides = SIDES[axle.wheels] ?? [];
	return sides.map((side, n) => {
		const stored = axle.stored?.length === sides.length ? axle.stored[n] : undefined;
		return {
			side,
			design: axle.design,
			rotating_ring: stored?.design === axle.design ? stored.rotating_ring : '',
			play_min_mm: mm(axle.least),
			play_max_mm: mm(axle.most),
			play_source: axle.source?.trim() ?? '',
			seal: stored?.seal ?? {},
			bearings: axle.rows.map(bearing)
		};
	});
}

/** What the vehicle has been through: age in years, distance in metres. */
export interface HistoryDraft {
	age: number | null;
	distance: number | null;
	duty: string[];
}

export function toVehicle(
	label: string,
	plate: string,
	tyre: string,
	axles: AxleDraft[],
	history: HistoryDraft = { age: null, distance: null, duty: [] },
	stored?: Schemas['VehicleOut']
): Schemas['VehicleIn'] {
	return {
		label,
		plate,
		tyre,
		// Measured once; on another tyre it would be of the old one.
		rolling_circumference_m: stored?.tyre === tyre ? stored.rolling_circumference_m : null,
		age_years: history.age,
		distance_km: km(history.distance),
		duty: history.duty,
		axles: axles.map((axle) => ({ driven: axle.driven, steered: axle.steered, hubs: hubs(axle) }))
	};
}

/** The draft of a stored vehicle's axle. */
export function fromAxle(axle: Schemas['AxleOut']): AxleDraft {
	const [first] = axle.hubs;
	const shape = (hub: Schemas['HubOut']) =>
		JSON.stringify([hub.design, hub.bearings, hub.play_min_mm, hub.play_max_mm, hub.play_source]);
	const alike = first && axle.hubs.every((hub) => shape(hub) === shape(first));
	return {
		design: first?.design ?? '',
		wheels: String(axle.hubs.length),
		driven: axle.driven,
		steered: axle.steered,
		rows: (first?.bearings ?? []).map((row) => ({
			row: row.row ?? 'row',
			elements: row.elements ?? null,
			element: ofMm(row.element_diameter_mm),
			pitch: ofMm(row.pitch_diameter_mm),
			angle: row.contact_angle_deg ?? null,
			designation: row.designation ?? ''
		})),
		least: ofMm(first?.play_min_mm),
		most: ofMm(first?.play_max_mm),
		source: first?.play_source ?? '',
		stored: axle.hubs,
		kept: alike ? undefined : axle.hubs
	};
}
