import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Schemas } from '$lib/api/client';
import { cutOff, forget, Parts, soundOf } from './parts';

const made = (place: string) => ({ place }) as Schemas['MadeIn'];
const begun = (id: string, owner = 1) => ({ id, owner, caseId: 'c', rate: 8, made: made('A1L') });
const block = (...samples: number[]) => Float32Array.from(samples);
/** The locks that living pages hold. */
const held = new Set<string>();
vi.stubGlobal('navigator', {
	locks: {
		request: async (name: string, hold: () => Promise<void>) => {
			held.add(name);
			await hold();
			held.delete(name);
		},
		query: async () => ({ held: [...held].map((name) => ({ name })) })
	}
});

beforeEach(async () => {
	held.clear();
	for (const owner of [1, 2]) for (const one of await cutOff(owner)) await forget(one.id);
});

describe('the parts of a recording', () => {
	it('are there after a crash, in order and with what is known of them by then', async () => {
		const parts = new Parts(begun('r'));
		parts.add([block(0, 0.5), block(-0.5)], made('A1L'));
		parts.add([block(0.25)], made('A2R'));
		await vi.waitFor(async () => expect((await soundOf(begun('r'))).size).toBe(44 + 4 * 3));
		expect(await cutOff(1)).toEqual([]); // it is still being made
		held.clear(); // the page died
		const [one] = await cutOff(1);
		expect([one?.seconds, one?.made.place, one?.caseId]).toEqual([0.5, 'A2R', 'c']);
		const bytes = new DataView(await (await soundOf(begun('r'))).arrayBuffer());
		const samples = [0, 1, 2, 3].map((n) => bytes.getInt8(44 + 3 * n + 2) / 127);
		samples.forEach((sample, n) => expect(sample).toBeCloseTo([0, 0.5, -0.5, 0.25][n] ?? 0, 1));
	});

	it('are gone once it is kept whole, and never shown to anybody else', async () => {
		const parts = new Parts(begun('r'));
		parts.add([block(1)], made('A1L'));
		const other = new Parts(begun('s', 2));
		other.add([block(1)], made('A1L'));
		await parts.end();
		held.clear();
		await vi.waitFor(async () => expect((await cutOff(2)).map((one) => one.id)).toEqual(['s']));
		expect(await cutOff(1)).toEqual([]);
	});

	it('say when the device takes no more', async () => {
		const full = vi.spyOn(IDBObjectStore.prototype, 'put').mockImplementation(() => {
			throw new DOMException('no room', 'QuotaExceededError');
		});
		const told = vi.fn();
		new Parts(begun('r'), told).add([block(1)], made('A1L'));
		await vi.waitFor(() => expect(told).toHaveBeenCalledOnce());
		full.mockRestore();
	});
});
