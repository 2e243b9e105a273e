import { session } from '$lib/session.svelte';
import { decimal } from '$lib/numbers';

/** A price in the workshop's own money, without cents: an estimate has none. */
export const money = (value: number, currency: string): string => `${currency} ${decimal(value)}`;

/** Days in words: under half a working day in its hours. */
export const days = (value: number, hours = session.reference?.working_day_h ?? 0): string =>
	value < 0.5 ? `${decimal(Math.max(value * hours, 0.1), 1)} h` : `${decimal(value, 1)} days`;
