import type { Schemas } from '$lib/api/client';
import { length } from '$lib/shown.svelte';

/** An entry of the log in words, its figures in the person's units. */
export function entryWords(row: Schemas['ObservationOut'] | undefined): string | undefined {
	if (!row || row.mean_mm === null || row.spread_mm === null) return row?.words;
	return `${row.words}: mean ${length(row.mean_mm)}, spread ${length(row.spread_mm)}`;
}
