import { describe, expect, it, vi } from 'vitest';
import { answersOf, lettersFor, testHref, unanswered, type Witness } from './answers';
import { stages } from './stages';

vi.mock('$lib/session.svelte', () => ({
	session: { reference: { witnesses: [{ key: 'fault_lines', entry: 'record' }] } }
}));

const witness = (outcomes: string[]) =>
	({ key: 'spin', options: outcomes.map((key) => ({ key, words: key })) }) as unknown as Witness;

describe('answers', () => {
	it('end with the two that weigh nothing, each with a key that no stage and no hub has', () => {
		const found = answersOf(witness(['free', 'drags', 'rumbles', 'grinds', 'clicks', 'scrapes']), [
			{ key: 'unsure', words: 'could not tell' },
			{ key: 'not_done', words: 'not done' }
		]);
		expect(found.slice(-2).map((answer) => answer.key)).toEqual(['unsure', 'not_done']);
		const taken = new Set<string>([...stages.map((stage) => stage.key), 'w', 'n', 'y', 'i', '?']);
		const keys = found.map((answer) => answer.hotkey ?? '');
		expect(keys.filter((key) => taken.has(key) || !key || /\d/.test(key))).toEqual([]);
		expect(new Set(keys).size).toBe(keys.length);
	});

	it('have the first letter of their words for a key where that is free, else another of their letters', () => {
		expect(lettersFor(['free, even', 'drags', 'rumbles', 'clicks', 'crunches', 'hollow'])).toEqual([
			'f',
			'a',
			'u',
			'c',
			'e',
			'b'
		]);
		expect(lettersFor(['aa', 'ab', 'ac'], ['a', 'b'])).toEqual(['a', 'b', undefined]);
	});

	it('lead to the screen made for the act', () => {
		expect(testHref('7', 'fault_lines', 'A1L')).toBe('/cases/7/hear?hub=A1L');
		expect(testHref('7', 'opened', 'A1L')).toBe('/cases/7/open?hub=A1L');
		expect(testHref('7', 'load_test', null)).toBe('/cases/7/test/load_test');
	});
});

describe('the next hub', () => {
	it('is the next without an answer, round the vehicle, and none when all have one', () => {
		const done = new Set(['A1L', 'A2L']);
		const hubs = ['A1L', 'A1R', 'A2L', 'A2R'];
		expect(unanswered(hubs, 'A1R', (hub) => done.has(hub))).toBe('A2R');
		expect(unanswered(hubs, 'A2R', (hub) => done.has(hub))).toBe('A1R');
		expect(unanswered(hubs, 'A1L', () => true)).toBeUndefined();
	});
});
