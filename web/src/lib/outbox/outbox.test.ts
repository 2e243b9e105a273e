import 'fake-indexeddb/auto';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { NoNetwork, Refused } from '$lib/api/client';

type Sending = { id: string; judged: boolean };
const sent: Sending[] = [];
/** What the server does with an entry, by its id; takes it where nothing is said. */
const server = new Map<string, () => void>();
let renewed = 0;
vi.mock('./send', () => ({
	renew: async () => void renewed++,
	send: async (entry: { id: string }, judged: boolean) => {
		server.get(entry.id)?.();
		sent.push({ id: entry.id, judged });
		return null;
	}
}));

const { outbox, overtaken } = await import('./outbox.svelte');
const kept = await import('./kept');

const fails = (status: number, code = 'said') => {
	return () => {
		throw new Refused(status, code, `words for ${status}`);
	};
};
const cut = () => {
	throw new NoNetwork();
};
const entry = (id: string, supersedes: string | null = null) => ({
	id,
	caseId: 'c',
	label: `Entry ${id}`,
	kind: 'observation' as const,
	body: { id, hub: 'A1L', kind: 'spin', value: { answer: 'free' }, supersedes, withdrawn: false, job: null }
});
const write = (id: string, to = '/api/policy') => ({
	id,
	caseId: '',
	label: `Write ${id}`,
	kind: 'write' as const,
	method: 'PUT' as const,
	to,
	body: { change: id }
});
const ids = () => sent.map((one) => one.id);
function waiting(id: string) {
	const found = outbox.of(id);
	if (!found) throw new Error(`${id} does not wait`);
	return found;
}
/** A reload: the page forgets, the device does not. */
async function reload(owner: number) {
	outbox.close();
	await outbox.open(owner);
}

describe('the outbox', () => {
	beforeEach(async () => {
		vi.restoreAllMocks();
		for (const owner of [1, 2]) for (const one of await kept.all(owner)) await kept.remove(one);
		sent.length = renewed = 0;
		server.clear();
		await reload(1);
	});
	afterEach(() => outbox.close());

	it('shows nothing as waiting that went out while another was kept', async () => {
		const all = Array.from({ length: 40 }, (_, n) => `e${n}`);
		for (const id of all) {
			await outbox.keep(entry(id));
			for (let turns = 0; turns < all.indexOf(id); turns++) await null;
		}
		await vi.waitFor(() => expect(outbox.entries).toEqual([]));
		expect(ids()).toEqual(all);
	});

	it('keeps first, sends in order, and asks the last answer only to carry the case', async () => {
		server.set('a', cut);
		for (const id of ['a', 'b', 'c']) await outbox.add(entry(id));
		expect((await kept.all(1)).map((one) => one.id)).toEqual(['a', 'b', 'c']);
		expect([ids(), outbox.stopped]).toEqual([[], 'offline']);
		server.clear();
		await reload(1);
		expect(sent).toEqual([
			{ id: 'a', judged: false },
			{ id: 'b', judged: false },
			{ id: 'c', judged: true }
		]);
		expect([await kept.all(1), outbox.entries, outbox.stopped]).toEqual([[], [], '']);
	});

	it('keeps the order in which entries were made whatever the clock says', async () => {
		server.set('a', cut);
		const now = vi.spyOn(Date, 'now');
		for (const [hours, id] of [
			[2, 'a'],
			[0, 'b'],
			[1, 'c']
		] as const) {
			now.mockReturnValue(hours * 3_600_000);
			await outbox.add(entry(id));
		}
		server.clear();
		await reload(1);
		expect(ids()).toEqual(['a', 'b', 'c']);
	});

	it('shows and sends only what the person at hand made', async () => {
		server.set('a', cut);
		await outbox.add(entry('a'));
		await reload(2);
		expect([outbox.entries, ids()]).toEqual([[], []]);
		server.clear();
		await outbox.add(entry('b'));
		expect(ids()).toEqual(['b']);
		await reload(1);
		expect(ids()).toEqual(['b', 'a']);
	});

	it('goes on with later entries where the server fails on one, but not with what corrects it', async () => {
		server.set('a', fails(500));
		await outbox.add(entry('a'));
		await outbox.add(entry('b', 'a'));
		await outbox.add(entry('c'));
		expect(ids()).toEqual(['c']);
		expect([outbox.of('a')?.state, outbox.of('a')?.words, outbox.of('b')?.state]).toEqual([
			'failed',
			'words for 500',
			'waiting'
		]);
		server.clear();
		await outbox.flush();
		expect(ids()).toEqual(['c', 'a', 'b']);
	});

	it('tries again by itself, ever less often', async () => {
		vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] });
		const later = vi.spyOn(globalThis, 'setTimeout');
		server.set('a', fails(503));
		await outbox.add(entry('a'));
		for (let n = 0; n < 6; n++) await outbox.flush();
		expect(later.mock.calls.map((call) => call[1]).filter((ms) => (ms ?? 0) >= 3000)).toEqual([
			3000, 6000, 12000, 24000, 48000, 60000, 60000
		]);
		vi.useRealTimers();
	});

	it('waits for a sign-in, and goes on after it', async () => {
		server.set('a', fails(401));
		await outbox.add(entry('a'));
		expect([outbox.stopped, outbox.of('a')?.state]).toEqual(['signed_out', 'waiting']);
		server.clear();
		await outbox.open(1);
		expect([ids(), outbox.stopped]).toEqual([['a'], '']);
	});

	it('fetches a new cookie once where the old one is refused', async () => {
		let times = 0;
		server.set('a', () => {
			if (times++ === 0) fails(403)();
		});
		await outbox.add(entry('a'));
		expect([ids(), renewed]).toEqual([['a'], 1]);
		server.set('b', fails(403));
		await outbox.add(entry('b'));
		expect([outbox.refusalOf('b'), renewed]).toEqual(['words for 403', 2]);
	});

	it('keeps a refusal with its words over a reload, until it is let go', async () => {
		server.set('a', fails(422));
		await outbox.add(entry('a'));
		await reload(1);
		expect(outbox.refusalOf('a')).toBe('words for 422');
		await outbox.discard(waiting('a'));
		await reload(1);
		expect(outbox.entries).toEqual([]);
	});

	it('lets either of two entries stand where a colleague was first', async () => {
		server.set('a', fails(409, 'already_superseded'));
		await outbox.add(entry('a', 'old'));
		const mine = waiting('a');
		expect(overtaken(mine)).toBe(true);
		if (overtaken(mine)) await outbox.instead(mine, 'theirs');
		expect(sent).toHaveLength(1);
		expect(ids()).not.toContain('a');
		expect(await kept.all(1)).toEqual([]);
	});

	it('sends from memory where the device has no room, and says that it is not kept', async () => {
		const full = vi.spyOn(IDBObjectStore.prototype, 'add').mockImplementation(() => {
			throw new DOMException('no room', 'QuotaExceededError');
		});
		server.set('a', cut);
		await outbox.add(entry('a'));
		expect([outbox.of('a')?.unkept, (await kept.all(1)).length]).toEqual([true, 0]);
		full.mockRestore();
		server.clear();
		await outbox.flush();
		expect([ids(), outbox.entries]).toEqual([['a'], []]);
	});

	it('tells a form what became of what it held: sent, waiting, or refused and still the form’s', async () => {
		expect(await outbox.enter(write('a'))).toBe('sent');
		server.set('b', cut);
		expect(await outbox.enter(write('b'))).toBe('waits');
		server.clear();
		await outbox.flush();
		server.set('c', fails(409, 'changed_meanwhile'));
		await expect(outbox.enter(write('c'))).rejects.toMatchObject({ code: 'changed_meanwhile', status: 409 });
		expect([outbox.entries, await kept.all(1)]).toEqual([[], []]);
	});

	it('never lets an older write overtake a newer one to the same address', async () => {
		server.set('a', fails(503));
		await outbox.add(write('a'));
		await outbox.add(write('b'));
		await outbox.add(write('c', '/api/other'));
		expect([ids(), outbox.writes('/api/policy').map((one) => one.id)]).toEqual([['c'], ['a', 'b']]);
		server.clear();
		await outbox.flush();
		expect(ids()).toEqual(['c', 'a', 'b']);
	});

	it('tries a cut line soon, and ever less often', async () => {
		vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] });
		const later = vi.spyOn(globalThis, 'setTimeout');
		server.set('a', cut);
		await outbox.add(entry('a'));
		for (let n = 0; n < 3; n++) await outbox.flush();
		const waits = () => later.mock.calls.map((call) => call[1]).filter((ms) => (ms ?? 0) >= 500);
		expect(waits()).toEqual([500, 1000, 2000, 4000]);
		server.set('b', cut);
		server.delete('a'); // it carries one, and is cut again: that is a new cut, not the fifth
		await outbox.add(entry('b'));
		expect(waits().at(-1)).toBe(500);
		vi.useRealTimers();
	});

	it('says where the device’s store cannot be read, never that nothing waits, and reads it again', async () => {
		server.set('a', cut);
		await outbox.add(entry('a'));
		outbox.close();
		vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] });
		const broken = vi.spyOn(IDBIndex.prototype, 'getAll').mockImplementation(() => {
			throw new DOMException('lost', 'UnknownError');
		});
		await outbox.open(1);
		expect([outbox.unread, ids()]).toEqual([true, []]);
		broken.mockRestore();
		server.clear();
		await vi.advanceTimersByTimeAsync(3000);
		vi.useRealTimers();
		await vi.waitFor(() => expect([outbox.unread, ids(), outbox.entries]).toEqual([false, ['a'], []]));
	});

	it('tells who listens once the server has it, and sends an entry once however often it is asked', async () => {
		const told: string[] = [];
		const stop = outbox.onSent((one) => told.push(one.id));
		await Promise.all([outbox.add(entry('a')), outbox.add(entry('b')), outbox.flush(), outbox.flush()]);
		await outbox.flush();
		stop();
		expect([ids(), told]).toEqual([
			['a', 'b'],
			['a', 'b']
		]);
	});
});
