import { writing } from './language';

/** Figures as the reader's own device writes them, in digits that can be typed again. */
const formats: Record<string, Intl.NumberFormat> = {};
function format(options: Intl.NumberFormatOptions): Intl.NumberFormat {
	const key = JSON.stringify(options);
	return (formats[key] ??= new Intl.NumberFormat(writing, { numberingSystem: 'latn', ...options }));
}

/** A figure with just so many decimals. */
export const decimal = (value: number, decimals = 0): string =>
	format({ minimumFractionDigits: decimals, maximumFractionDigits: decimals }).format(value);

/** A figure as it is typed: no more decimals than it needs, and nothing between thousands. */
export const typed = (value: number, decimals: number): string =>
	format({ maximumFractionDigits: decimals, useGrouping: false }).format(value);

/** A figure with no more than so many digits that mean something. */
export const rounded = (value: number, digits: number): string =>
	format({ maximumSignificantDigits: digits }).format(value);

/** A share in hundredths. */
export const hundredths = (share: number): string => format({ style: 'percent' }).format(share);

/** So many of something, in words: one entry, 3 entries. `forms` as the language has them, # for the figure. */
export const counted = (count: number, forms: string[], which = (n: number) => (n === 1 ? 0 : 1)): string =>
	(forms[which(count)] ?? '').replace('#', decimal(count));
