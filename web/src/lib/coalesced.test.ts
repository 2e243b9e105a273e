import { expect, it } from 'vitest';
import { coalesced } from './coalesced';

it('asks twice where it was asked ten times in a row, the last time with the last', async () => {
	const ran: number[] = [];
	let go = () => {};
	const run = coalesced(async (n: number) => {
		ran.push(n);
		if (n === 0) await new Promise<void>((done) => (go = done));
	});
	const first = run(0);
	for (let n = 1; n < 10; n++) void run(n);
	go();
	await first;
	expect(ran).toEqual([0, 9]);
});

it('goes on after a failure', async () => {
	let fails = true;
	const ran: string[] = [];
	const run = coalesced(async (words: string) => {
		if (fails) throw new Error('no');
		ran.push(words);
	});
	await expect(run('a')).rejects.toThrow('no');
	fails = false;
	await run('b');
	expect(ran).toEqual(['b']);
});
