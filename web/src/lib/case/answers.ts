import type { Schemas } from '$lib/api/client';
import { session } from '$lib/session.svelte';

export type Witness = Schemas['WitnessTable'];

/** Free single keys for answers; stages and hubs have theirs, and the two that weigh nothing always the last two. */
const FREE = ['a', 'b', 'c', 'e', 'f', 'j', 'k', 'm', 't', 'u', 'q', 'x'];
const PASSES = 2;

/** A key for each of some words: its first letter where that is free, else another of its letters, else any that is left. */
export function lettersFor(words: string[], free = FREE): (string | undefined)[] {
	const found: (string | undefined)[] = words.map(() => undefined);
	const left = new Set(free);
	const give = (n: number, letter: string | undefined) => {
		if (letter && !found[n] && left.delete(letter)) found[n] = letter;
	};
	words.forEach((word, n) => give(n, word[0]?.toLowerCase()));
	words.forEach((word, n) => {
		give(
			n,
			[...word.toLowerCase()].find((letter) => left.has(letter))
		);
	});
	words.forEach((_, n) => give(n, [...left][0]));
	return found;
}

export interface Answer {
	key: string;
	words: string;
	hotkey?: string;
}

/** The answers of a test with the keys that give them; the two that weigh nothing stand last. */
export function answersOf(witness: Witness, passes: Schemas['OptionOut'][]): Answer[] {
	const own = lettersFor(
		witness.options.map((option) => option.words),
		FREE.slice(0, -PASSES)
	);
	const keys = [...own, ...FREE.slice(-PASSES)];
	return [...witness.options, ...passes].map((option, n) => ({ ...option, hotkey: keys[n] }));
}

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
