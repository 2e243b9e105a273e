import type { Schemas } from '$lib/api/client';
import { database } from '$lib/database';

/** What is to be sent of an entry. */
export type Sent =
	| { kind: 'observation'; body: Omit<Schemas['ObservationIn'], 'waited_s'> }
	/** A verdict, a tick, a departure, a closing, a vehicle, the workshop's ways: JSON with a number of its own. */
	| { kind: 'write'; method: 'POST' | 'PUT'; to: string; body: object }
	| { kind: 'recording'; made: Schemas['MadeIn']; sound: Blob }
	| { kind: 'photo'; hub: string; part: string; picture: Blob };

/**
 * An entry as a screen hands it in. Its id is made there, so that sending it twice stores it once; `caseId` is '' of
 * what is of no case.
 */
export type Draft = { id: string; caseId: string; label: string } & Sent;

/** What waits on this device until the server has it, for the person who made it. */
export type Entry = Draft & {
	/** The order in which entries were made; no clock is asked, as clocks are set. */
	seq: number;
	/** When, by this device's clock: to tell how long it waited, whatever that clock says. */
	made_ms: number;
	owner: number;
	/** It waits; the server failed on it and is asked again; or the server said no. */
	state: 'waiting' | 'failed' | 'refused';
	/** It is in this page's memory only: there was no room on the device. */
	unkept?: boolean;
	words?: string;
	/** The server's own word for why. */
	code?: string;
	status?: number;
	/** What is wrong with which field. */
	fields?: Record<string, string>;
	tries: number;
};

const STORE = 'queue';
const store = database('hematite-queue', (db) => {
	db.createObjectStore(STORE, { keyPath: 'seq', autoIncrement: true }).createIndex('owner', 'owner');
});

/** Keep a new entry; returns its place in the order. Throws where the device has no room. */
export async function add(entry: Omit<Entry, 'seq'>): Promise<number> {
	return Number(await (await store()).add(STORE, entry));
}

/** Keep what became of an entry. */
export const change = async (entry: Entry): Promise<void> => void (await (await store()).put(STORE, entry));

export const remove = async (entry: Entry): Promise<void> => (await store()).delete(STORE, entry.seq);

/** All of one person's entries in the order in which they were made; nobody else's. */
export const all = async (owner: number): Promise<Entry[]> =>
	(await store()).getAllFromIndex(STORE, 'owner', owner);
