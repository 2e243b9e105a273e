import type { Schemas } from '$lib/api/client';
import { measured } from '$lib/units';

export type Field = Schemas['SumFieldOut'];
type Of = 'length' | 'torque' | 'temperature' | 'distance';

/** The unit that a sum is asked in, as a quantity that a person may have a unit of their own for. */
const QUANTITIES: Record<string, { of: Of; factor: number; offset: number }> = {
	mm: { of: 'length', factor: 0.001, offset: 0 },
	'N·m': { of: 'torque', factor: 1, offset: 0 },
	'°C': { of: 'temperature', factor: 1, offset: 273.15 },
	km: { of: 'distance', factor: 1000, offset: 0 }
};

/** The quantity that a field is of; none where nobody chooses its unit, as of degrees. */
export const quantityOf = (unit: string): Of | undefined => QUANTITIES[unit]?.of;

/** A figure in SI as the sum is asked with it. */
export function asked(si: number | null, unit: string): number | null {
	const row = QUANTITIES[unit];
	return si === null || !row ? si : measured(si, row.factor, row.offset);
}

/** And the other way. */
export function shown(given: unknown, unit: string): number | null {
	if (typeof given !== 'number') return null;
	const row = QUANTITIES[unit];
	return row ? Number((given * row.factor + row.offset).toPrecision(12)) : given;
}

/** What is given without what was left empty. */
export function said(values: Record<string, unknown>): Record<string, unknown> {
	const empty = (value: unknown) =>
		value === null ||
		value === undefined ||
		value === '' ||
		value === false ||
		(Array.isArray(value) && !value.length);
	return Object.fromEntries(Object.entries(values).filter(([, value]) => !empty(value)));
}
