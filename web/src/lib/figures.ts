import { toSi, type Unit } from './units';

/** What was made of a typed text: nothing yet, a quantity in SI, a part of a figure, or no figure at all. */
export type Read =
	| { is: 'empty' }
	| {
			is: 'figure';
			si: number;
			/** Whether its marks could be read otherwise, so that what was read is said. */ marked: boolean;
	  }
	| { is: 'part' }
	| { is: 'text' };

const SPACES = /[\s\u00a0\u2009\u202f'’]/g;
const GROUPED = /^\d{1,3}([.,\s\u00a0\u2009\u202f'’]\d{3})+$/;
const WITH_UNIT = /^(.*\d)\s*([^\d\s.,]+)$/;

/** Read a text in a unit; a unit written behind the figure, as it is pasted, counts instead where it is one of `units`. */
export function read(raw: string, unit: Unit, units: Unit[] = [unit]): Read {
	const text = raw.trim().replace(/[−–—]/g, '-');
	if (!text) return { is: 'empty' };
	const found = WITH_UNIT.exec(text);
	const named =
		found && [unit, ...units].find((one) => one.label === found[2]?.toLowerCase() || one.key === found[2]);
	if (found && !named) return { is: 'text' };
	const [, sign = '', body = ''] = /^([+-]?)\s*(.*)$/.exec(found?.[1] ?? text) ?? [];
	if (/[^\d.,\s\u00a0\u2009\u202f'’]/.test(body)) return { is: 'text' };
	const value = number(body, (named ?? unit).decimals);
	if (value === null) return { is: 'part' };
	const marked = /[,'’]|\d[\s\u00a0\u2009\u202f]\d/.test(body) || Boolean(named);
	return { is: 'figure', si: toSi(sign === '-' ? -value : value, named ?? unit), marked };
}

/** The number that digits with points, commas and spaces stand for; null where they stand for none, or for several. */
function number(body: string, decimals: number): number | null {
	if (!/\d/.test(body)) return null;
	const mark = decimalMark(body, decimals);
	const at = mark ? body.lastIndexOf(mark) : body.length;
	const [whole, part] = [body.slice(0, at), body.slice(at + 1)];
	if (/\D/.test(part) || (/\D/.test(whole) && !GROUPED.test(whole))) return null;
	return Number(`${whole.replace(SPACES, '').replace(/[.,]/g, '')}.${part}`);
}

/** Which mark parts the whole from its decimals: of two kinds the last; one alone, unless it parts thousands. */
function decimalMark(body: string, decimals: number): string {
	const marks = body.match(/[.,]/g) ?? [];
	const last = marks.at(-1) ?? '';
	if (new Set(marks).size === 2) return last;
	if (marks.length !== 1) return '';
	// 240,000 km is a quarter of a million, 1,250 mm is one and a quarter: a figure without decimals has thousands.
	return decimals === 0 && /^[1-9]\d{0,2}[.,]\d{3}$/.test(body.replace(SPACES, '')) ? '' : last;
}
