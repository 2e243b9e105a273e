import { openDB, type IDBPDatabase } from 'idb';
import { api, ask, csrfToken, NoNetwork, Refused, refusal, wordsOf, type Schemas } from '$lib/api/client';

/** What waits on this device until the server has it. Its id is made here, so that sending twice stores once. */
export type Entry = { id: string; caseId: string; at: number; label: string; refused?: string } & (
	| { kind: 'observation'; body: Schemas['ObservationIn'] }
	| { kind: 'recording'; made: Schemas['MadeIn']; sound: Blob }
	| { kind: 'photo'; hub: string; part: string; picture: Blob }
);

type Listener = (entry: Entry, shown: Shown | null) => void;

const RETRY_MS = 3000;
const STORE = 'entries';

let database: Promise<IDBPDatabase> | undefined;
function store(): Promise<IDBPDatabase> {
	database ??= openDB('hematite-outbox', 1, {
		upgrade: (db) => void db.createObjectStore(STORE, { keyPath: 'id' })
	});
	return database;
}

/** A case as it is shown, which the answer to an entry may carry. */
export type Shown = Schemas['ShownOut'];

/** Send one. `judged`: the answer is to carry the case, judged anew; of several that wait only the last needs it. */
async function send(entry: Entry, judged: boolean): Promise<Shown | null> {
	const path = { case_id: entry.caseId };
	if (entry.kind === 'observation') {
		const params = { path, query: { judged } };
		const logged = await ask(api.POST('/api/cases/{case_id}/observations', { params, body: entry.body }));
		return logged.shown;
	}
	const form = new FormData();
	form.set('id', entry.id);
	if (entry.kind === 'recording') {
		form.set('made', JSON.stringify(entry.made));
		form.set('sound', entry.sound, `${entry.id}.wav`);
	} else {
		form.set('hub', entry.hub);
		form.set('part', entry.part);
		form.set('picture', entry.picture, `${entry.id}.jpg`);
	}
	let response: Response;
	try {
		const headers = { 'X-CSRFToken': csrfToken() };
		const to = `/api/cases/${entry.caseId}/${entry.kind === 'recording' ? 'recordings' : 'photos'}`;
		response = await fetch(to, { method: 'POST', body: form, headers });
	} catch {
		throw new NoNetwork();
	}
	if (!response.ok) throw refusal(response.status, await response.json().catch(() => null));
	return null;
}

/** Keeps every entry on the device before it is sent, sends in order, and tries again while the network is away. */
class Outbox {
	entries = $state.raw<Entry[]>([]);
	offline = $state(false);
	#sending = false;
	#timer: ReturnType<typeof setTimeout> | undefined;
	#sent: Listener[] = [];

	async open() {
		this.entries = ((await (await store()).getAll(STORE)) as Entry[]).sort((a, b) => a.at - b.at);
		window.addEventListener('online', () => void this.flush());
		void this.flush();
	}

	onSent(listener: Listener): () => void {
		this.#sent.push(listener);
		return () => (this.#sent = this.#sent.filter((other) => other !== listener));
	}

	/** Keep, and send in the background. Resolves when it is kept on the device; the server may have it later. */
	async keep(entry: Entry): Promise<void> {
		await this.#store(entry);
		void this.flush();
	}

	/** Keep, and wait until the server has it or has refused it, as far as there is a network. */
	async add(entry: Entry): Promise<void> {
		await this.#store(entry);
		await this.flush();
	}

	async #store(entry: Entry): Promise<void> {
		await (await store()).put(STORE, entry);
		this.entries = [...this.entries, entry];
	}

	async discard(id: string): Promise<void> {
		await (await store()).delete(STORE, id);
		this.entries = this.entries.filter((entry) => entry.id !== id);
	}

	refusalOf(id: string): string | undefined {
		return this.entries.find((entry) => entry.id === id)?.refused;
	}

	async flush(): Promise<void> {
		if (this.#sending) return;
		this.#sending = true;
		clearTimeout(this.#timer);
		try {
			for (let next = this.#next(); next; next = this.#next()) await this.#deliver(next);
			this.offline = false;
		} catch {
			this.offline = true;
			this.#timer = setTimeout(() => void this.flush(), RETRY_MS);
		} finally {
			this.#sending = false;
		}
	}

	#next(): Entry | undefined {
		return this.entries.find((entry) => !entry.refused);
	}

	/** Send one; a refusal stays here with its words, anything else is thrown and tried again. */
	async #deliver(entry: Entry): Promise<void> {
		const last = !this.entries.some((other) => other.id !== entry.id && !other.refused);
		let shown: Shown | null;
		try {
			shown = await send(entry, last);
		} catch (error) {
			if (!(error instanceof Refused) || error.status >= 500 || error.status === 401) throw error;
			const refused = { ...entry, refused: wordsOf(error) };
			await (await store()).put(STORE, refused);
			this.entries = this.entries.map((other) => (other.id === entry.id ? refused : other));
			return;
		}
		await this.discard(entry.id);
		for (const tell of this.#sent) tell(entry, shown);
	}
}

export const outbox = new Outbox();
