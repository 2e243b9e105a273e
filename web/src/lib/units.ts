import type { Schemas } from './api/client';

type Quantity = Schemas['QuantityOut'];
export type Unit = Schemas['UnitOut'];

/** The unit a person likes for a quantity; the table's first when they never chose. */
export function unitOf(quantities: Quantity[], liked: Record<string, string>, quantity: string): Unit {
	const units = quantities.find((row) => row.key === quantity)?.units ?? [];
	const found = units.find((unit) => unit.key === liked[quantity]) ?? units[0];
	if (!found) throw new Error(`no table for ${quantity}`);
	return found;
}

export const fromSi = (si: number, unit: Unit): number => (si - unit.offset) / unit.factor;
export const toSi = (shown: number, unit: Unit): number => shown * unit.factor + unit.offset;

/** A shown figure without its unit. */
export const figure = (si: number, unit: Unit): string => fromSi(si, unit).toFixed(unit.decimals);

/** A typed figure as a number: decimal comma or point, nothing else. NaN when it is no number. */
export function typed(text: string): number {
	const clean = text.trim().replace(',', '.');
	return /^[+-]?\d*\.?\d+$/.test(clean) ? Number(clean) : Number.NaN;
}
