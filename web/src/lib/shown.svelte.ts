import { session } from './session.svelte';
import { figure, toSi, unitOf } from './units';

const unit = (quantity: string) => unitOf(session.reference?.quantities ?? [], session.units, quantity);

export const unitLabel = (quantity: string) => unit(quantity).label;

/** Millimetres as the person likes lengths, with the unit. */
export const length = (mm: number) => `${figure(mm / 1000, unit('length'))} ${unit('length').label}`;
export const lengthFigure = (mm: number) => figure(mm / 1000, unit('length'));
/** What was typed as a length, in millimetres. */
export const mmOf = (shown: number) => toSi(shown, unit('length')) * 1000;

/** What was typed as a temperature, in °C, and the other way. */
export const celsiusOf = (shown: number) => toSi(shown, unit('temperature')) - 273.15;

export const torque = (nm: number) => `${figure(nm, unit('torque'))} ${unit('torque').label}`;
export const nmOf = (shown: number) => toSi(shown, unit('torque'));

export const kmhOf = (shown: number) => toSi(shown, unit('speed')) * 3.6;
export const speedFigure = (kmh: number) => figure(kmh / 3.6, unit('speed'));
export const distanceLabel = () => (unit('speed').key === 'mph' ? 'mi' : 'km');
export const distanceFigure = (km: number) => Math.round(Number(figure(km / 3.6, unit('speed'))));
export const kmOf = (shown: number) => Math.round(toSi(shown, unit('speed')) * 3.6);

/** A probability, never shown as certain or impossible. */
export function percent(share: number): string {
	const whole = Math.round(share * 100);
	const figure = whole > 99 ? 'over 99 %' : whole < 1 ? 'under 1 %' : `${whole} %`;
	return figure.replaceAll(' ', '\u00a0'); // never broken over two lines
}
