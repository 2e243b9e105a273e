import type { Schemas } from '$lib/api/client';
import { typed } from '$lib/units';

/** One bearing row as typed. */
export interface RowDraft {
	row: string;
	elements: string;
	element: string;
	pitch: string;
	angle: string;
	/** The number found for it, kept while the row stays. */
	designation?: string;
}

/** A limit as it is stored, and as it was first shown. */
export interface Limit {
	text: string;
	mm: number | null;
}

/** An axle as typed; `kept` holds hubs that differ from each other and are left as they are. */
export interface AxleDraft {
	design: string;
	wheels: string;
	driven: boolean;
	steered: boolean;
	rows: RowDraft[];
	/** Limits of end play from the vehicle's own manual, in the person's unit, and where they stand there. */
	least?: string;
	most?: string;
	source?: string;
	was?: { least: Limit; most: Limit };
	kept?: Schemas['HubIn'][];
	/** The stored hubs, for what no field shows: their seals and which ring turns. */
	stored?: Schemas['HubOut'][];
}

const PLACES: Record<string, [suffix: string, side: 'left' | 'right' | 'centre'][]> = {
	'1': [['C', 'centre']],
	'2': [
		['L', 'left'],
		['R', 'right']
	],
	'4': [
		['LO', 'left'],
		['LI', 'left'],
		['RI', 'right'],
		['RO', 'right']
	]
};

export const newAxle = (design: string, steered = false): AxleDraft => ({
	design,
	wheels: '2',
	driven: false,
	steered,
	rows: []
});

export const newRow = (n: number): RowDraft => ({
	row: n ? 'outboard' : 'inboard',
	elements: '',
	element: '',
	pitch: '',
	angle: '0'
});

/** An empty field is “not known”; text for a number is left for the server to refuse by name. */
const figure = (text: string): number | null => (text.trim() ? typed(text) : null);

const bearing = (row: RowDraft): Schemas['BearingIn'] => ({
	row: row.row,
	elements: figure(row.elements),
	element_diameter_mm: figure(row.element),
	pitch_diameter_mm: figure(row.pitch),
	contact_angle_deg: figure(row.angle),
	designation: row.designation ?? ''
});

function hubs(axle: AxleDraft, n: number, mmOf: (shown: number) => number): Schemas['HubIn'][] {
	if (axle.kept) return axle.kept;
	// What nobody touched goes back as it was stored, not as its unit rounds it.
	const limit = (text = '', was?: Limit) => {
		if (was && text === was.text) return was.mm;
		const shown = figure(text);
		return shown === null ? null : Number(mmOf(shown).toFixed(5));
	};
	return (PLACES[axle.wheels] ?? []).map(([suffix, side]) => ({
		id: `A${n + 1}${suffix}`,
		side,
		design: axle.design,
		rotating_ring: '' as const,
		play_min_mm: limit(axle.least, axle.was?.least),
		play_max_mm: limit(axle.most, axle.was?.most),
		play_source: axle.source?.trim() ?? '',
		seal: axle.stored?.find((hub) => hub.id === `A${n + 1}${suffix}`)?.seal ?? {},
		bearings: axle.rows.map(bearing)
	}));
}

/** What the vehicle has been through, as typed; distance in km. */
export interface HistoryDraft {
	age: string;
	distance: string;
	duty: string[];
}

export function toVehicle(
	label: string,
	tyre: string,
	axles: AxleDraft[],
	history: HistoryDraft = { age: '', distance: '', duty: [] },
	mmOf: (shown: number) => number = (shown) => shown
): Schemas['VehicleIn'] {
	return {
		label,
		tyre,
		age_years: figure(history.age),
		distance_km: figure(history.distance),
		duty: history.duty,
		axles: axles.map((axle, n) => ({ driven: axle.driven, steered: axle.steered, hubs: hubs(axle, n, mmOf) }))
	};
}

const text = (value: number | null | undefined) =>
	value === null || value === undefined ? '' : String(value);

/** The draft of a stored vehicle's axle. */
export function fromAxle(
	axle: Schemas['AxleOut'],
	shown: (mm: number) => string = (mm) => String(mm)
): AxleDraft {
	const [first] = axle.hubs;
	const shape = (hub: Schemas['HubOut']) =>
		JSON.stringify([hub.design, hub.bearings, hub.play_min_mm, hub.play_max_mm, hub.play_source]);
	const limit = (mm: number | null = null): Limit => ({ text: mm === null ? '' : shown(mm), mm });
	const was = { least: limit(first?.play_min_mm), most: limit(first?.play_max_mm) };
	const alike = first && axle.hubs.every((hub) => shape(hub) === shape(first));
	return {
		design: first?.design ?? '',
		wheels: String(axle.hubs.length),
		driven: axle.driven,
		steered: axle.steered,
		rows: (first?.bearings ?? []).map((row) => ({
			row: row.row ?? 'row',
			elements: text(row.elements),
			element: text(row.element_diameter_mm),
			pitch: text(row.pitch_diameter_mm),
			angle: text(row.contact_angle_deg),
			designation: row.designation ?? ''
		})),
		least: was.least.text,
		most: was.most.text,
		was,
		source: first?.play_source ?? '',
		stored: axle.hubs,
		kept: alike ? undefined : axle.hubs
	};
}
