import { session } from './session.svelte';
import { decimal, hundredths, rounded } from './numbers';
import { figure, fixed, fromSi, inField, measured, toSi, unitOf, type Unit } from './units';

const quantities = () => session.reference?.quantities ?? [];
const unit = (quantity: string) => unitOf(quantities(), session.units, quantity);

/** A distance goes with the speed that a person likes: an hour of it. */
const distanceOf = (speed: Unit): Unit => fixed(speed.key === 'mph' ? 'mi' : 'km', 0, speed.factor * 3600);

/** The person's unit of a quantity, and all that it may be written in. */
export const unitFor = (quantity: string): Unit =>
	quantity === 'distance' ? distanceOf(unit('speed')) : unit(quantity);
export const unitsOf = (quantity: string): Unit[] =>
	quantity === 'distance'
		? unitsOf('speed').map(distanceOf)
		: (quantities().find((row) => row.key === quantity)?.units ?? []);

export const unitLabel = (quantity: string) => unit(quantity).label;

/** Millimetres as the person likes lengths, with the unit. */
export const length = (mm: number) => `${figure(mm / 1000, unit('length'))} ${unit('length').label}`;
export const lengthFigure = (mm: number) => figure(mm / 1000, unit('length'));
/** The same with no more digits than it needs: sizes, not readings. */
export const short = (mm: number) => inField(mm / 1000, unit('length'));
export const torque = (nm: number) => `${figure(nm, unit('torque'))} ${unit('torque').label}`;
export const distance = (km: number) =>
	`${decimal(fromSi(km * 1000, unitFor('distance')))} ${unitFor('distance').label}`;

/** What a field holds in SI, as the server measures it; null stays not known. */
export const mm = <T extends number | null>(si: T) => (si === null ? si : measured(si, 0.001)) as T;
export const celsius = (si: number) => measured(si, 1, 273.15);
export const kmh = (si: number) => measured(si, 1 / 3.6);
export const km = <T extends number | null>(si: T) => (si === null ? si : Math.round(si / 1000)) as T;
/** And the other way. */
export const ofMm = (given: number | null | undefined) => (given == null ? null : given / 1000);
export const ofKm = (given: number | null | undefined) => (given == null ? null : given * 1000);

/** The units that the trade's tables are written in, and the quantity of each. */
const WRITTEN: Record<string, string> = {
	mm: 'length',
	'km/h': 'speed',
	km: 'distance',
	'N·m': 'torque',
	'°C': 'temperature'
};
/** The quantity and the unit that a label of those tables stands for; none of what nobody chooses, as degrees. */
export function written(label: string): { of: string; unit: Unit } | undefined {
	const of = WRITTEN[label] ?? '';
	const unit = of ? unitsOf(of).find((one) => one.label === label) : undefined;
	return unit && { of, unit };
}
const MEASURED =
	/-?\d+(?:\.\d+)?(?:(?:, | and | to | or | \+ )\d+(?:\.\d+)?)* (mm|km\/h|km|N·m|°C)(?![\w/·])/g;

/** A text of the trade with its figures in the person's own units, no finer than they were written. */
export function inUnits(text: string): string {
	return text.replace(MEASURED, (found, label: string) => {
		const row = written(label);
		if (!row) return found;
		const liked = unitFor(row.of);
		if (row.unit.key === liked.key) return found;
		const figures = found.slice(0, -label.length - 1);
		const shown = figures.replace(/-?\d+(\.\d+)?/g, (figure) => {
			const digits = Math.max(2, figure.replace(/^0[.0]*|\D|(?<!\..*)0+$/g, '').length);
			return rounded(fromSi(toSi(Number(figure), row.unit), liked), digits);
		});
		return `${shown} ${liked.label}`;
	});
}

/** A probability, never shown as certain or impossible. */
export function percent(share: number): string {
	const hundredth = (value: number) => Math.round(value * 100) / 100;
	const most = session.reference?.never_sure ?? 1;
	const [whole, least] = [hundredth(share), hundredth(1 - most)];
	const words =
		whole > most
			? `over ${hundredths(most)}`
			: whole < least
				? `under ${hundredths(least)}`
				: hundredths(share);
	return words.replaceAll(' ', '\u00a0'); // never broken over two lines
}
