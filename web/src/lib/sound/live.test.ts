import { afterEach, describe, expect, it, vi } from 'vitest';
import type { Schemas } from '$lib/api/client';
import { AWAY, LiveEar } from './live.svelte';

const made = { place: 'A1L' } as Schemas['MadeIn'];
const sound = () => new Blob(['sound']);
const answer = (body: object, ok = true) => ({ ok, json: () => Promise.resolve(body) });

describe('the live ear', () => {
	vi.stubGlobal('document', { cookie: '' });
	afterEach(() => void vi.restoreAllMocks());

	function asked(...answers: unknown[]) {
		const fetched = vi.fn();
		for (const one of answers) fetched.mockImplementationOnce(() => one);
		vi.stubGlobal('fetch', fetched);
		return fetched;
	}

	it('asks from five seconds on, every two and a half, until half a minute', async () => {
		const fetched = asked();
		fetched.mockImplementation(() => Promise.resolve(answer({ decided: false })));
		const ear = new LiveEar('c', () => undefined);
		ear.begin();
		for (const seconds of [1, 4.9, 5, 6, 7.4, 7.5, 20, 33, 40]) await ear.look(seconds, sound, made);
		expect(fetched).toHaveBeenCalledTimes(3);
		expect(fetched.mock.calls[0]?.[0]).toBe('/api/cases/c/live');
	});

	it('has one look under way, and forgets it when the recording ends', async () => {
		let come: (value: unknown) => void = () => undefined;
		const fetched = asked(new Promise((done) => (come = done)));
		const decided = vi.fn();
		const ear = new LiveEar('c', decided);
		ear.begin();
		const first = ear.look(5, sound, made);
		await ear.look(9, sound, made);
		expect(fetched).toHaveBeenCalledTimes(1);
		ear.end();
		come(answer({ decided: true }));
		await first;
		expect([ear.found, decided.mock.calls.length]).toEqual([null, 0]);
	});

	it('says when it is decided, and why nothing is heard', async () => {
		asked(
			Promise.resolve(answer({ message: 'Choose place and speed again.' }, false)),
			Promise.reject(new TypeError('no network')),
			Promise.resolve(answer({ decided: true }))
		);
		const decided = vi.fn();
		const ear = new LiveEar('c', decided);
		ear.begin();
		await ear.look(5, sound, made);
		expect(ear.silent).toBe('Choose place and speed again.');
		await ear.look(8, sound, made);
		expect([ear.silent, decided.mock.calls.length]).toEqual([AWAY, 0]);
		await ear.look(11, sound, made);
		expect([ear.silent, decided.mock.calls.length]).toEqual(['', 1]);
	});
});
