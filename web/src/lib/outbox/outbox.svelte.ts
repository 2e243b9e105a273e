import { NoNetwork, Refused, wordsOf } from '$lib/api/client';
import * as kept from './kept';
import type { Draft, Entry } from './kept';
import { renew, send, type Shown } from './send';

export type { Draft, Entry } from './kept';
export type { Shown } from './send';

type Listener = (entry: Entry, shown: Shown | null) => void;

/** How long until it is tried again, twice as long each time: where the line was cut, and where the server fails. */
const CUT_MS = 500;
const RETRY_MS = 3000;
const LONGEST_MS = 60_000;
const SIGNED_OUT = 401;
const FORBIDDEN = 403;
const OVERTAKEN = 'already_superseded';

/**
 * Keeps every entry on the device before it is sent, each for the person who made it, and sends them in the order in
 * which they were made. What the server fails on is tried again and holds up only what corrects it; what it refuses
 * stays with its words; without a network, or signed out, all wait.
 */
class Outbox {
	entries = $state.raw<Entry[]>([]);
	/** How many are on their way to the device's store. */
	keeping = $state(0);
	/** What waits on the device could not be read: what is shown may not be all. */
	unread = $state(false);
	/** Why nothing goes out at all. */
	stopped = $state<'' | 'offline' | 'signed_out'>('');
	#owner = 0;
	/** How often in a row no server answered. */
	#cuts = 0;
	#running: Promise<void> | undefined;
	#timer: ReturnType<typeof setTimeout> | undefined;
	#again: ReturnType<typeof setTimeout> | undefined;
	#listeners: Listener[] = [];
	/** Other tabs of this browser, which show the same entries. */
	#tabs: BroadcastChannel | undefined;

	get waiting(): Entry[] {
		return this.entries.filter((entry) => entry.state === 'waiting');
	}

	/** Show and send what a person left here; what anybody else did stays theirs, unseen. */
	async open(owner: number): Promise<void> {
		this.#owner = owner;
		if (!this.#tabs) {
			this.#tabs = new BroadcastChannel('hematite-queue');
			this.#tabs.onmessage = () => void this.#read();
			globalThis.addEventListener?.('online', () => void this.flush());
			// Asked once: what a browser calls lasting it does not clear when room gets scarce.
			void globalThis.navigator?.storage?.persist?.();
		}
		await this.#read();
		await this.flush();
	}

	/** Nobody is signed in: nothing is shown and nothing is sent; what waits stays on the device. */
	close(): void {
		clearTimeout(this.#timer);
		clearTimeout(this.#again);
		this.#owner = 0;
		this.entries = [];
		this.stopped = '';
		this.unread = false;
	}

	onSent(listener: Listener): () => void {
		this.#listeners.push(listener);
		return () => (this.#listeners = this.#listeners.filter((other) => other !== listener));
	}

	/** Keep, and send in the background. Resolves when it is kept on the device; the server may have it later. */
	async keep(draft: Draft): Promise<void> {
		await this.#store(draft);
		void this.flush();
	}

	/** Keep, and wait until the server has it or has refused it, as far as there is a network. */
	async add(draft: Draft): Promise<void> {
		await this.#store(draft);
		await this.flush();
	}

	/**
	 * Keep what a form holds, and wait for the answer: whether the server has it, or it waits on this device. Throws
	 * `Refused` where the server said no: the form still holds it, to be mended and handed in again.
	 */
	async enter(draft: Draft): Promise<'sent' | 'waits'> {
		await this.add(draft);
		const left = this.of(draft.id);
		if (!left) return 'sent';
		if (left.state !== 'refused') return 'waits';
		await this.discard(left);
		throw new Refused(left.status ?? 422, left.code ?? '', left.words ?? '', left.fields);
	}

	/** What waits to be written at an address, oldest first. */
	writes(to: string): (Entry & { kind: 'write' })[] {
		return this.entries.filter(
			(entry): entry is Entry & { kind: 'write' } =>
				entry.kind === 'write' && entry.to === to && entry.state !== 'refused'
		);
	}

	of(id: string): Entry | undefined {
		return this.entries.find((entry) => entry.id === id);
	}

	refusalOf(id: string): string | undefined {
		const entry = this.of(id);
		return entry?.state === 'refused' ? entry.words : undefined;
	}

	async discard(entry: Entry): Promise<void> {
		// One that stays on the device all the same is sent again by its number, and stored once.
		if (!entry.unkept) await kept.remove(entry).catch(() => undefined);
		this.entries = this.entries.filter((other) => other.seq !== entry.seq);
		this.#tabs?.postMessage('changed');
	}

	/** Put a refused entry in place of what overtook it, as a new one: the person wants it all the same. */
	async instead(entry: Entry & { kind: 'observation' }, of: string): Promise<void> {
		const id = crypto.randomUUID();
		const { caseId, label, body } = entry;
		await this.#store({ id, caseId, label, kind: 'observation', body: { ...body, id, supersedes: of } });
		await this.discard(entry);
		await this.flush();
	}

	/** Send what can be sent now. One run at a time; whoever asks meanwhile waits for the same one. */
	flush(): Promise<void> {
		clearTimeout(this.#timer);
		this.#running ??= this.#run().finally(() => (this.#running = undefined));
		return this.#running;
	}

	async #read(): Promise<void> {
		const owner = this.#owner;
		const found = await kept.all(owner).catch(() => undefined);
		if (owner !== this.#owner) return; // somebody else signed in meanwhile
		this.unread = !found;
		if (!found) {
			clearTimeout(this.#again);
			this.#again = setTimeout(() => void this.#read().then(() => this.flush()), RETRY_MS);
			return;
		}
		const here = this.entries.filter((entry) => entry.unkept && entry.owner === owner);
		this.entries = [...found, ...here];
	}

	async #store(draft: Draft): Promise<void> {
		const made = { owner: this.#owner, made_ms: Date.now() };
		// What a form still holds is a proxy, which no device can keep.
		const bare = 'body' in draft ? ({ ...draft, body: $state.snapshot(draft.body) } as Draft) : draft;
		const entry = { ...bare, ...made, state: 'waiting' as const, tries: 0 };
		this.keeping += 1;
		try {
			const seq = await kept.add(entry);
			this.entries = [...this.entries, { ...entry, seq }]; // as they are now: others went out meanwhile
			this.#tabs?.postMessage('changed');
		} catch {
			// No room: it is sent from memory if it can be, and the tray says that it is not kept.
			const seq = Number.MAX_SAFE_INTEGER - 1e6 + this.entries.length;
			this.entries = [...this.entries, { ...entry, seq, unkept: true }];
		} finally {
			this.keeping -= 1;
		}
	}

	async #run(): Promise<void> {
		const tried: string[] = [];
		let stopped: typeof this.stopped = ''; // said once it is known: what is said already must not come and go
		for (let next = this.#next(tried); next && !stopped; next = this.#next(tried)) {
			tried.push(next.id);
			stopped = await this.#deliver(next);
			if (!stopped) this.#cuts = 0; // the line is bad, but it carries
		}
		this.stopped = stopped;
		this.#cuts = this.stopped === 'offline' ? this.#cuts + 1 : 0;
		const failed = this.entries.filter((entry) => entry.state === 'failed').map((entry) => entry.tries);
		const waits = this.#cuts ? CUT_MS * 2 ** (this.#cuts - 1) : RETRY_MS * 2 ** (Math.min(...failed) - 1);
		if (this.#cuts || failed.length)
			this.#timer = setTimeout(() => void this.flush(), Math.min(waits, LONGEST_MS));
	}

	/** The next to be sent: none that corrects an entry which is not yet there, or overwrites a write that is not. */
	#next(tried: string[]): Entry | undefined {
		return this.entries.find((entry) => {
			if (entry.state === 'refused' || tried.includes(entry.id)) return false;
			if (entry.kind === 'write') return this.writes(entry.to)[0] === entry;
			return !(entry.kind === 'observation' && entry.body.supersedes && this.of(entry.body.supersedes));
		});
	}

	/** Send one; returns why nothing else can go either. */
	async #deliver(entry: Entry): Promise<typeof this.stopped> {
		const last = !this.entries.some((other) => other.seq !== entry.seq && other.state === 'waiting');
		let shown: Shown | null;
		try {
			shown = await send(entry, last).catch(async (error) => {
				if (!(error instanceof Refused) || error.status !== FORBIDDEN) throw error;
				await renew(); // once: a new session has a new cookie
				return send(entry, last);
			});
		} catch (error) {
			if (error instanceof NoNetwork) return 'offline';
			const status = error instanceof Refused ? error.status : 500;
			if (status === SIGNED_OUT) return 'signed_out';
			const words = wordsOf(error);
			const { code, fields } = error instanceof Refused ? error : { code: '', fields: {} };
			await this.#became(entry, { state: status >= 500 ? 'failed' : 'refused', words, code, status, fields });
			return '';
		}
		await this.discard(entry);
		for (const tell of this.#listeners) tell(entry, shown);
		return '';
	}

	async #became(entry: Entry, what: Partial<Entry>): Promise<void> {
		const now = { ...entry, ...what, tries: entry.tries + 1 } as Entry;
		if (!entry.unkept) await kept.change(now).catch(() => undefined);
		this.entries = this.entries.map((other) => (other.seq === entry.seq ? now : other));
		this.#tabs?.postMessage('changed');
	}
}

/** Whether a colleague's entry overtook this one, so that either may stand. */
export const overtaken = (entry: Entry): entry is Entry & { kind: 'observation' } =>
	entry.kind === 'observation' && entry.state === 'refused' && entry.code === OVERTAKEN;

export const outbox = new Outbox();
