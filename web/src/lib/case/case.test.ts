import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';

const asked: { path: string; answer: (data: unknown) => void }[] = [];
const outgoing: { body: { supersedes: string | null; id: string } }[] = [];
vi.mock('$lib/api/client', () => ({
	api: { GET: (path: string) => new Promise((answer) => asked.push({ path, answer })) },
	ask: async (answer: Promise<unknown>) => answer,
	wordsOf: (error: unknown) => String(error)
}));
let listener: (entry: { caseId: string; kind: string }, shown: unknown) => void = () => undefined;
const refused = new Set<string>();
const waiting: { caseId: string; kind: string }[] = [];
vi.mock('$lib/outbox/outbox.svelte', () => ({
	outbox: {
		waiting,
		keep: async (entry: never) => outgoing.push(entry),
		onSent: (one: typeof listener) => {
			listener = one;
			return () => undefined;
		},
		refusalOf: (id: string) => (refused.has(id) ? 'no' : undefined)
	}
}));

const { CaseState } = await import('./case.svelte');
const log = (ids: string[]) => ({
	observations: ids.map((id) => ({ id, hub: 'A1L', kind: 'spin', superseded: false, withdrawn: false }))
});
const last = (path: string) => asked.filter((one) => one.path.endsWith(path)).at(-1);
const settle = () => new Promise((done) => setTimeout(done, 0));

/** Answer the newest request of each sort. */
async function answer(ids: string[], recordings: unknown[] | null = null) {
	last('{case_id}')?.answer(log(ids));
	last('/assessment')?.answer({ hubs: {} });
	if (recordings) {
		last('/recordings')?.answer(recordings);
		last('/verdicts')?.answer([]);
		last('/photos')?.answer([]);
	}
	await settle();
}

describe('a case', () => {
	beforeEach(() => {
		vi.useRealTimers();
		asked.length = outgoing.length = 0;
		refused.clear();
	});
	afterEach(() => vi.restoreAllMocks());

	it('fetches only the log and the beliefs after an answer', async () => {
		const held = new CaseState('7');
		held.follow();
		await answer([], [{ id: 'r', state: 'done' }]);
		asked.length = 0;
		listener({ caseId: '7', kind: 'observation' }, null);
		expect(asked.map((one) => one.path.split('/').at(-1))).toEqual(['{case_id}', 'assessment']);
		await answer(['a']);
		expect(held.detail?.observations).toHaveLength(1);
		expect(held.recordings).toHaveLength(1);
	});

	it('takes what the answer to an entry carried, and asks nothing; an older question is not heard any more', async () => {
		const held = new CaseState('7');
		held.follow();
		await answer([], []);
		void held.refresh(false);
		const early = [...asked];
		asked.length = 0;
		listener({ caseId: '7', kind: 'observation' }, { detail: log(['a', 'b']), assessment: { hubs: {} } });
		early.forEach((one) => one.answer(one.path.endsWith('{case_id}') ? log(['a']) : { hubs: {} }));
		await settle();
		expect(held.detail?.observations).toHaveLength(2);
		expect(asked).toHaveLength(0);
	});

	it('asks for the whole again where an answer overtook it', async () => {
		const held = new CaseState('7');
		held.follow();
		listener({ caseId: '7', kind: 'observation' }, { detail: log(['a', 'b']), assessment: { hubs: {} } });
		await answer(['a'], []);
		expect(held.detail?.observations).toHaveLength(2);
		expect(asked.filter((one) => one.path.endsWith('/recordings'))).toHaveLength(2);
		await answer(['a', 'b'], [{ id: 'r', state: 'done' }]);
		expect(held.recordings).toHaveLength(1);
	});

	it('asks one at a time, and once more for all that was wanted meanwhile: a stream of entries starves none', async () => {
		const held = new CaseState('7');
		void held.refresh();
		for (let n = 0; n < 5; n++) void held.refresh(n === 2);
		expect(asked.filter((one) => one.path.endsWith('/assessment'))).toHaveLength(1);
		await answer(['a'], []);
		expect(held.detail?.observations).toHaveLength(1);
		expect(asked.filter((one) => one.path.endsWith('/recordings'))).toHaveLength(2);
		await answer(['a', 'b'], [{ id: 'r', state: 'done' }]);
		expect([held.detail?.observations.length, held.recordings.length]).toEqual([2, 1]);
		expect(asked.filter((one) => one.path.endsWith('/assessment'))).toHaveLength(2);
	});

	it('fetches once for many files that are sent, when the last of them is there', async () => {
		const held = new CaseState('7');
		held.follow();
		await answer([], []);
		asked.length = 0;
		waiting.push({ caseId: '7', kind: 'recording' });
		listener({ caseId: '7', kind: 'recording' }, null);
		expect(asked).toHaveLength(0);
		waiting.length = 0;
		listener({ caseId: '7', kind: 'recording' }, null);
		expect(asked).toHaveLength(5);
	});

	it('supersedes what it said last, though the answer is not back; not what was refused', async () => {
		const held = new CaseState('7');
		await held.observe('A1L', 'spin', { answer: 'free' }, '');
		await held.observe('A1L', 'spin', { answer: 'drags' }, '');
		await held.observe('A1R', 'spin', { answer: 'free' }, '');
		expect(outgoing[0]?.body.supersedes).toBeNull();
		expect(outgoing[1]?.body.supersedes).toBe(outgoing[0]?.body.id);
		expect(outgoing[2]?.body.supersedes).toBeNull();
		refused.add(outgoing[1]?.body.id ?? '');
		await held.observe('A1L', 'spin', { answer: 'rumbles' }, '');
		expect(outgoing[3]?.body.supersedes).toBeNull();
	});

	it('keeps a photograph on the device under an id of its own', async () => {
		const held = new CaseState('7');
		const picture = new Blob(['x']);
		await held.photograph('A1L', 'outer_cup', picture, 'A1L: photograph');
		await held.photograph('A1L', 'outer_cup', picture, 'A1L: photograph');
		const sent = outgoing as unknown as { id: string; kind: string; part: string; picture: Blob }[];
		expect(sent.map((one) => [one.kind, one.part, one.picture])).toEqual(
			Array(2).fill(['photo', 'outer_cup', picture])
		);
		expect(sent[0]?.id).not.toBe(sent[1]?.id);
	});

	it('finds what stands at one part of a hub, and what stands at the hub', async () => {
		const held = new CaseState('7');
		const row = (id: string, part: string, superseded = false) => ({
			id,
			hub: 'A1L',
			kind: 'part',
			value: { part },
			superseded,
			withdrawn: false
		});
		held.detail = {
			observations: [row('1', 'nut'), row('2', 'outer_cup', true), row('3', 'outer_cup')]
		} as never;
		expect(held.standing('A1L', 'part', 'outer_cup')?.id).toBe('3');
		expect(held.standing('A1L', 'part', 'nut')?.id).toBe('1');
		expect(held.standing('A1L', 'part', 'seal')).toBeUndefined();
		expect(held.standing('A1R', 'part')).toBeUndefined();
	});

	it('keeps the parts of an opened hub apart', async () => {
		const held = new CaseState('7');
		for (const part of ['outer_cup', 'inner_cup', 'outer_cup'])
			await held.observe('A1L', 'part', { part, finds: ['smooth'] }, '');
		expect(outgoing.map((one) => one.body.supersedes)).toEqual([null, null, outgoing[0]?.body.id]);
	});
});
