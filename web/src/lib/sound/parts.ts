import type { Schemas } from '$lib/api/client';
import { database } from '$lib/database';
import { encodeWav } from './wav';

/** A recording that is being made: what it is of, as far as it is known by now. */
export interface Begun {
	id: string;
	owner: number;
	caseId: string;
	rate: number;
	made: Schemas['MadeIn'];
}

/** One that was cut off: by a reload, a crash, an empty battery. */
export type CutOff = Begun & { seconds: number };

const HEADS = 'heads';
const PARTS = 'parts';
const lockOf = (id: string) => `hematite-recording-${id}`;
const store = database('hematite-recordings', (db) => {
	db.createObjectStore(HEADS, { keyPath: 'id' });
	db.createObjectStore(PARTS); // by recording and number
});
const ofOne = (id: string) => IDBKeyRange.bound([id, 0], [id, Infinity]);

/** Write a recording to the device while it is made, part by part; whoever reads them later knows that it is still made. */
export class Parts {
	#count = 0;
	#last: Promise<unknown> = Promise.resolve();
	#letGo: () => void = () => {};
	/** `onfull`: the device takes no more of it, so what is in memory is all there is. */
	constructor(
		private readonly begun: Begun,
		private readonly onfull: () => void = () => {}
	) {
		const held = new Promise<void>((done) => (this.#letGo = done));
		void globalThis.navigator?.locks?.request(lockOf(begun.id), () => held);
	}

	/** Keep what came since the last part, and what the recording is of by now. */
	add(blocks: Float32Array[], made: Schemas['MadeIn']): void {
		const size = blocks.reduce((total, block) => total + block.length, 0);
		const part = new Float32Array(size);
		let at = 0;
		for (const block of blocks) {
			part.set(block, at);
			at += block.length;
		}
		const number = this.#count++;
		this.#last = this.#last.then(() => this.#write(number, part, made)).catch(this.onfull);
	}

	async #write(number: number, part: Float32Array, made: Schemas['MadeIn']): Promise<void> {
		const both = (await store()).transaction([HEADS, PARTS], 'readwrite');
		await Promise.all([
			both.objectStore(HEADS).put({ ...this.begun, made }),
			both.objectStore(PARTS).put(part, [this.begun.id, number]),
			both.done
		]);
	}

	/** It is kept whole elsewhere, or not wanted. */
	async end(): Promise<void> {
		await this.#last;
		await forget(this.begun.id).catch(() => undefined);
		this.#letGo();
	}
}

/** Forget a recording that was cut off. */
export async function forget(id: string): Promise<void> {
	const both = (await store()).transaction([HEADS, PARTS], 'readwrite');
	await Promise.all([
		both.objectStore(HEADS).delete(id),
		both.objectStore(PARTS).delete(ofOne(id)),
		both.done
	]);
}

const partsOf = async (id: string) => (await (await store()).getAll(PARTS, ofOne(id))) as Float32Array[];

/** A person's recordings that were begun and that no page is making any more. */
export async function cutOff(owner: number): Promise<CutOff[]> {
	const heads = ((await (await store()).getAll(HEADS)) as Begun[]).filter((head) => head.owner === owner);
	const held = (await globalThis.navigator?.locks?.query())?.held?.map((lock) => lock.name) ?? [];
	const left = heads.filter((head) => !held.includes(lockOf(head.id)));
	return Promise.all(
		left.map(async (head) => {
			const samples = (await partsOf(head.id)).reduce((total, part) => total + part.length, 0);
			return { ...head, seconds: samples / head.rate };
		})
	);
}

/** The sound of a recording that was cut off, as a WAV file. */
export const soundOf = async (one: Begun): Promise<Blob> => encodeWav(await partsOf(one.id), one.rate);
