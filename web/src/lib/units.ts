import type { Schemas } from './api/client';
import { decimal, typed } from './numbers';

type Quantity = Schemas['QuantityOut'];
export type Unit = Schemas['UnitOut'];

/** The unit a person likes for a quantity; the table's first when they never chose. */
export function unitOf(quantities: Quantity[], liked: Record<string, string>, quantity: string): Unit {
	const units = quantities.find((row) => row.key === quantity)?.units ?? [];
	const found = units.find((unit) => unit.key === liked[quantity]) ?? units[0];
	if (!found) throw new Error(`no table for ${quantity}`);
	return found;
}

/** A unit that nobody chooses: degrees, years, a count. `factor`: of the SI unit. */
export const fixed = (label: string, decimals = 0, factor = 1): Unit => ({
	key: label,
	label,
	factor,
	offset: 0,
	decimals
});

export const fromSi = (si: number, unit: Unit): number => (si - unit.offset) / unit.factor;
export const toSi = (shown: number, unit: Unit): number => shown * unit.factor + unit.offset;

/** A shown figure without its unit. */
export const figure = (si: number, unit: Unit): string => decimal(fromSi(si, unit), unit.decimals);

/** A figure as it stands in a field: no more digits than it needs. */
export const inField = (si: number | null, unit: Unit): string =>
	si === null ? '' : typed(fromSi(si, unit), unit.decimals);

/** A quantity in another measure than SI, without the dust of floating point. */
export const measured = (si: number, factor: number, offset = 0): number =>
	Number(((si - offset) / factor).toPrecision(12));
