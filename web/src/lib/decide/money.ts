/** A price in the workshop's own money, without cents: an estimate has none. */
export const money = (value: number, currency: string): string => `${currency} ${Math.round(value)}`;

/** Days in words: under half a day in hours. */
export const days = (value: number): string =>
	value < 0.5 ? `${Math.max(value * 8, 0.1).toFixed(1)} h` : `${value.toFixed(1)} days`;
