import type { Schemas } from '$lib/api/client';
import { typed } from '$lib/units';

/** A policy as typed: every field is text until it is sent. */
export interface PolicyDraft {
	schools: Record<string, string>;
	limits: Record<string, { least: string; most: string; source: string }>;
	currency: string;
	figures: Record<string, string>;
}

/** What stands now; only what the workshop entered itself is filled in. `shown` turns mm into the person's unit. */
export function toDraft(policy: Schemas['PolicyOut'], shown: (mm: number) => string): PolicyDraft {
	return {
		schools: Object.fromEntries(policy.schools.map((row) => [row.key, row.chosen])),
		limits: Object.fromEntries(
			policy.limits.map((row) => [
				row.design,
				row.own
					? { least: shown(row.least_mm), most: shown(row.most_mm), source: row.source }
					: { least: '', most: '', source: '' }
			])
		),
		currency: policy.currency,
		figures: Object.fromEntries(policy.figures.map((row) => [row.key, row.example ? '' : String(row.value)]))
	};
}

/** The body to send: empty fields go back to their defaults; text for a number is left for the server to refuse. */
export function toBody(
	draft: PolicyDraft,
	stored: Schemas['PolicyOut'],
	shown: (mm: number) => string,
	mmOf: (shown: number) => number
): Schemas['PolicyIn'] {
	// What nobody touched goes back as it was stored, not as its unit rounds it.
	const mm = (text: string, was = Number.NaN) =>
		text === shown(was) ? was : Number(mmOf(typed(text)).toFixed(5));
	const own = (design: string) => stored.limits.find((row) => row.design === design && row.own);
	return {
		schools: draft.schools,
		limits: Object.fromEntries(
			Object.entries(draft.limits)
				.filter(([, row]) => row.most.trim())
				.map(([design, row]) => [
					design,
					{
						least_mm: row.least.trim() ? mm(row.least, own(design)?.least_mm) : 0,
						most_mm: mm(row.most, own(design)?.most_mm),
						source: row.source.trim()
					}
				])
		),
		prices: {
			currency: draft.currency,
			figures: Object.fromEntries(
				Object.entries(draft.figures)
					.filter(([, text]) => text.trim())
					.map(([key, text]) => [key, typed(text)])
			)
		}
	};
}
