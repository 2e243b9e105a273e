import type { Schemas } from '$lib/api/client';
import { mm, ofMm } from '$lib/shown.svelte';

/** A policy as it is entered: lengths in metres, null where nothing of one's own stands. */
export interface PolicyDraft {
	schools: Record<string, string>;
	limits: Record<string, { least: number | null; most: number | null; source: string }>;
	currency: string;
	figures: Record<string, number | null>;
	/** What the workshop has; a press of null t: nobody said. */
	shop: {
		hands: number | null;
		press_t: number | null;
		opens_h: number | null;
		closes_h: number | null;
		wrenches: OwnWrench[];
		shims: OwnShim[];
	};
}
type Whole<T> = { [K in keyof T]: NonNullable<T[K]> };
export type OwnWrench = { label: string; least_nm: number | null; most_nm: number | null };
/** A thickness in mm, and how many there are; null where nobody counted. */
export type OwnShim = { mm: number | null; count: number | null };

/** What stands now; only what the workshop entered itself is filled in. */
export function toDraft(policy: Schemas['PolicyOut']): PolicyDraft {
	return {
		schools: Object.fromEntries(policy.schools.map((row) => [row.key, row.chosen])),
		limits: Object.fromEntries(
			policy.limits.map((row) => [
				row.design,
				row.own
					? { least: ofMm(row.least_mm), most: ofMm(row.most_mm), source: row.source }
					: { least: null, most: null, source: '' }
			])
		),
		currency: policy.currency,
		figures: Object.fromEntries(policy.figures.map((row) => [row.key, row.example ? null : row.value])),
		shop: {
			...policy.shop,
			press_t: policy.shop.press_t ?? null,
			wrenches: policy.shop.wrenches.map((row) => ({ ...row, label: row.label ?? '' })),
			shims: policy.shop.shims.map((row) => ({ mm: row.mm, count: row.count ?? null }))
		}
	};
}

/** Why a draft cannot be saved, in words; '' where it can: half a limit is none. */
export const unfinished = (draft: PolicyDraft): string =>
	Object.values(draft.limits).some((row) => row.most === null && (row.least !== null || row.source.trim()))
		? 'A limit needs at least the most that is allowed. Give it, or clear its row.'
		: '';

/** The body to send: empty fields go back to their defaults. */
export function toBody(
	draft: PolicyDraft,
	revision: number,
	change: string,
	after: string | null = null
): Schemas['PolicyIn'] {
	return {
		change,
		revision,
		after,
		schools: draft.schools,
		limits: Object.fromEntries(
			Object.entries(draft.limits).flatMap(([design, { least, most, source }]) =>
				most === null
					? []
					: [[design, { least_mm: mm(least ?? 0), most_mm: mm(most), source: source.trim() }]]
			)
		),
		shop: {
			...draft.shop,
			wrenches: draft.shop.wrenches.filter(
				(row): row is Whole<OwnWrench> => row.least_nm !== null && row.most_nm !== null
			),
			shims: draft.shop.shims.filter((row): row is OwnShim & { mm: number } => row.mm !== null)
		},
		prices: {
			currency: draft.currency,
			figures: Object.fromEntries(
				Object.entries(draft.figures).filter((row): row is [string, number] => row[1] !== null)
			)
		}
	};
}
