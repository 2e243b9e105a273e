import type { Schemas } from '$lib/api/client';
import { written } from '$lib/shown.svelte';
import { measured } from '$lib/units';

export type Field = Schemas['SumFieldOut'];

/** A figure in SI as the sum is asked with it. */
export function asked(si: number | null, unit: string): number | null {
	const row = written(unit)?.unit;
	return si === null || !row ? si : measured(si, row.factor, row.offset);
}

/** And the other way. */
export function shown(given: unknown, unit: string): number | null {
	if (typeof given !== 'number') return null;
	const row = written(unit)?.unit;
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
