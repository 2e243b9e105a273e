import type { Schemas } from '$lib/api/client';
import { typed } from '$lib/units';

/** One bearing row as typed. */
export interface RowDraft {
	row: string;
	elements: string;
	element: string;
	pitch: string;
	angle: string;
}

/** An axle as typed; `kept` holds hubs that differ from each other and are left as they are. */
export interface AxleDraft {
	design: string;
	wheels: string;
	driven: boolean;
	steered: boolean;
	rows: RowDraft[];
	kept?: Schemas['HubIn'][];
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
	contact_angle_deg: figure(row.angle)
});

function hubs(axle: AxleDraft, n: number): Schemas['HubIn'][] {
	if (axle.kept) return axle.kept;
	return (PLACES[axle.wheels] ?? []).map(([suffix, side]) => ({
		id: `A${n + 1}${suffix}`,
		side,
		design: axle.design,
		rotating_ring: '' as const,
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
	history: HistoryDraft = { age: '', distance: '', duty: [] }
): Schemas['VehicleIn'] {
	return {
		label,
		tyre,
		age_years: figure(history.age),
		distance_km: figure(history.distance),
		duty: history.duty,
		axles: axles.map((axle, n) => ({ driven: axle.driven, steered: axle.steered, hubs: hubs(axle, n) }))
	};
}

const text = (value: number | null | undefined) =>
	value === null || value === undefined ? '' : String(value);

/** The draft of a stored vehicle's axle. */
export function fromAxle(axle: Schemas['AxleOut']): AxleDraft {
	const [first] = axle.hubs;
	const shape = (hub: Schemas['HubOut']) => JSON.stringify([hub.design, hub.bearings]);
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
			angle: text(row.contact_angle_deg)
		})),
		kept: alike ? undefined : axle.hubs
	};
}
