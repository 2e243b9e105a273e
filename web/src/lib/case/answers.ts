import type { Schemas } from '$lib/api/client';
import { session } from '$lib/session.svelte';

export type Witness = Schemas['WitnessTable'];

/** Free single keys for answers, in the order they stand on the screen; stages and hubs have theirs. */
export const KEYS = ['a', 'b', 'c', 'e', 'f', 'j', 'k', 'm', 'q', 't', 'u', 'x'];

export interface Answer {
	key: string;
	words: string;
	hotkey?: string;
}

/** The answers of a test with the keys that give them; the two that weigh nothing stand last. */
export const answersOf = (witness: Witness, passes: Schemas['OptionOut'][]): Answer[] =>
	[...witness.options, ...passes].map((option, n) => ({ ...option, hotkey: KEYS[n] }));

/** Where a test is entered: recordings and opened hubs have screens of their own. */
export function testHref(caseId: string, witness: string, hub: string | null | undefined): string {
	const entry = session.reference?.witnesses.find((row) => row.key === witness)?.entry;
	const screen = entry === 'record' ? 'hear' : witness === 'opened' ? 'open' : `test/${witness}`;
	return `/cases/${caseId}/${screen}${hub ? `?hub=${hub}` : ''}`;
}

/** The hub to go to after one is answered: the next that has no answer yet, else none. */
export function unanswered(
	hubs: string[],
	at: string,
	answered: (hub: string) => boolean
): string | undefined {
	const from = hubs.indexOf(at);
	const order = [...hubs.slice(from + 1), ...hubs.slice(0, from)];
	return order.find((hub) => !answered(hub));
}
