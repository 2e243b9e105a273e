import { writing } from './language';

/** Dates as the reader's own device writes them. */
export const day = (iso: string) =>
	new Date(iso).toLocaleDateString(writing, { day: 'numeric', month: 'short', year: 'numeric' });

/** A moment; with its year where that is another one than now. */
export function moment(iso: string): string {
	const [then, now] = [new Date(iso), new Date()];
	const year = then.getFullYear() === now.getFullYear() ? undefined : 'numeric';
	const parts = { day: 'numeric', month: 'short', year, hour: '2-digit', minute: '2-digit' } as const;
	return then.toLocaleString(writing, parts);
}
