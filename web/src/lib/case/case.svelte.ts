import { getContext, setContext } from 'svelte';
import { api, ask, wordsOf, type Schemas } from '$lib/api/client';
import { outbox, type Shown } from '$lib/outbox/outbox.svelte';

/** How often it is asked whether anything changed: more often while something is being heard. */
const ASK_MS = 3000;
const SOON_MS = 700;
/** An answer that does not come for so long does not come: a line at the edge of its reach says nothing more. */
const ANSWER_MS = 20_000;
const KEY = Symbol('case');
/** What is written carries its own number, so that it is written once. */
type Numbered = { id: string } & Record<string, unknown>;

/** One case with all that hangs on it. A late answer never overwrites a newer one. */
export class CaseState {
	detail = $state.raw<Schemas['CaseOut'] | null>(null);
	assessment = $state.raw<Schemas['AssessmentOut'] | null>(null);
	recordings = $state.raw<Schemas['RecordingOut'][]>([]);
	verdicts = $state.raw<Schemas['VerdictOut'][]>([]);
	photos = $state.raw<Schemas['PhotoOut'][]>([]);
	error = $state('');
	/** Counts up with every change of the case that this page learnt of. */
	changes = $state(0);
	/** Counts the answers that carried the case: what was asked for before one is too old. */
	#taken = 0;
	/** What is still to be fetched: nothing, the log and what is believed, or all. */
	#owed: '' | 'log' | 'all' = '';
	#fetching: Promise<void> | undefined;
	/** The last entry said of each hub and test; not shown, so no state. */
	readonly #sent: Record<string, string> = {};
	#timer: ReturnType<typeof setTimeout> | undefined;

	constructor(readonly id: string) {}

	get hubs(): Schemas['HubOut'][] {
		return this.detail?.vehicle_detail.axles.flatMap((axle) => axle.hubs) ?? [];
	}

	get closed(): boolean {
		return Boolean(this.detail?.closed_at);
	}

	/**
	 * What counts at a hub, or at one part or check of it: neither superseded nor withdrawn, found before any job, or
	 * after one.
	 */
	standing(hub: string, kind: string, part?: string, job?: string): Schemas['ObservationOut'] | undefined {
		return this.detail?.observations
			.filter((row) => row.hub === hub && row.kind === kind && !row.superseded && !row.withdrawn)
			.filter((row) => (row.job ?? undefined) === job)
			.filter((row) => part === undefined || (row.value.part ?? row.value.check) === part)
			.at(-1);
	}

	/** What was said here of a hub and is not yet believed by the server, in words: shown at once, and as waiting. */
	saidHere(hub: string, kind: string): string | undefined {
		const entry = outbox.entries.findLast(
			(one) =>
				one.kind === 'observation' &&
				one.caseId === this.id &&
				one.body.hub === hub &&
				one.body.kind === kind &&
				one.state !== 'refused'
		);
		const words = entry?.label.replace(/^[^:]*: /, '');
		return words && outbox.stopped ? `${words}, waiting` : words;
	}

	/** Whether a test applies at a hub and nobody has answered it, here or elsewhere. */
	due(hub: string, kind: string): boolean {
		const applies = this.assessment?.tests[hub]?.includes(kind) ?? false;
		return applies && !this.standing(hub, kind) && !this.saidHere(hub, kind);
	}

	/**
	 * Fetch all of it; or, after an answer, only the log and what is believed: recordings and verdicts stand. One at a
	 * time: asked while one is on its way, it is fetched once more after it, so that a stream of entries starves none.
	 */
	refresh(whole = true): Promise<void> {
		if (whole || !this.#owed) this.#owed = whole ? 'all' : 'log';
		this.#fetching ??= this.#fetch().finally(() => (this.#fetching = undefined));
		return this.#fetching;
	}

	async #fetch(): Promise<void> {
		while (this.#owed) {
			const [owed, taken] = [this.#owed, this.#taken];
			this.#owed = '';
			try {
				const found = await this.#ask(owed === 'all');
				if (taken === this.#taken) {
					Object.assign(this, found, { error: '' });
					this.changes += 1;
				} else if (owed === 'all') this.#owed = 'all'; // all of it, which an answer overtook, is still owed
			} catch (error) {
				if (taken === this.#taken) this.error = wordsOf(error);
			}
		}
	}

	async #ask(whole: boolean) {
		const params = { params: { path: { case_id: this.id } }, signal: AbortSignal.timeout(ANSWER_MS) };
		const [detail, assessment, recordings, verdicts, photos] = await Promise.all([
			ask(api.GET('/api/cases/{case_id}', params)),
			ask(api.GET('/api/cases/{case_id}/assessment', params)),
			whole ? ask(api.GET('/api/cases/{case_id}/recordings', params)) : this.recordings,
			whole ? ask(api.GET('/api/cases/{case_id}/verdicts', params)) : this.verdicts,
			whole ? ask(api.GET('/api/cases/{case_id}/photos', params)) : this.photos
		]);
		return { detail, assessment, recordings, verdicts, photos };
	}

	/** Take what the answer to an entry carried: no question need be asked, and one that is on its way is too old. */
	#take(shown: Shown): void {
		this.#taken++;
		Object.assign(this, shown, { error: '' });
		this.changes += 1;
	}

	/** Ask every few seconds whether anybody changed anything, and fetch the case where somebody did. */
	#watch() {
		clearTimeout(this.#timer);
		const hearing = this.recordings.some((recording) => recording.state === 'waiting');
		this.#timer = setTimeout(
			() => void this.#look().finally(() => this.#watch()),
			hearing ? SOON_MS : ASK_MS
		);
	}

	async #look(): Promise<void> {
		if (globalThis.document?.hidden) return;
		const params = { params: { path: { case_id: this.id } } };
		if (this.#fetching) return;
		const taken = this.#taken;
		const found = await ask(api.GET('/api/cases/{case_id}/state', params)).catch(() => null);
		if (found && found.state !== this.detail?.state && taken === this.#taken) await this.refresh();
	}

	/** Follow what anybody changes of this case; returns what stops it. */
	follow(): () => void {
		void this.refresh();
		this.#watch();
		const stop = outbox.onSent((entry, shown) => {
			if (entry.caseId !== this.id) return;
			if (shown) return this.#take(shown);
			if (entry.kind === 'write') this.changes += 1; // a job shows it at once, before all of the case is fetched
			// Of many files that are sent, the last is waited for; until then it is asked every few seconds.
			const file = entry.kind === 'recording' || entry.kind === 'photo';
			if (file && outbox.waiting.some((one) => one.caseId === this.id && one.kind === entry.kind)) return;
			if (entry.kind !== 'write' || !entry.to.endsWith('/job/entries'))
				void this.refresh(entry.kind !== 'observation');
		});
		return () => {
			stop();
			clearTimeout(this.#timer);
		};
	}

	/** The entry that a new one corrects: what this device said last, though its answer is not back yet. */
	#before(hub: string, kind: string, part?: string, job?: string): string | null {
		const sent = this.#sent[`${hub} ${kind} ${part ?? ''} ${job ?? ''}`];
		if (sent && !outbox.refusalOf(sent) && !this.detail?.observations.some((row) => row.id === sent))
			return sent;
		return this.standing(hub, kind, part, job)?.id ?? null;
	}

	/**
	 * Log what was found, before any job or after one: kept on this device at once, then sent. A second answer
	 * supersedes the first; one after a job never supersedes one before it.
	 */
	async observe(
		hub: string,
		kind: string,
		value: Record<string, unknown>,
		label: string,
		job?: string
	): Promise<void> {
		const id = crypto.randomUUID();
		const of = value.part ?? value.check;
		const part = typeof of === 'string' ? of : undefined;
		const supersedes = this.#before(hub, kind, part, job);
		this.#sent[`${hub} ${kind} ${part ?? ''} ${job ?? ''}`] = id;
		const body = { id, hub, kind, value, supersedes, withdrawn: false, job: job ?? null };
		await outbox.keep({ id, caseId: this.id, label, kind: 'observation', body });
	}

	/** On a practice vehicle: make a test, or look at a part; the server alone knows what it answers, and logs it. */
	async feel(hub: string, kind: string): Promise<void> {
		const body = { id: crypto.randomUUID(), hub, kind, supersedes: this.#before(hub, kind) };
		await ask(
			api.POST('/api/cases/{case_id}/simulated/hand', { params: { path: { case_id: this.id } }, body })
		);
		await this.refresh(false);
	}
	async look(hub: string, part: string): Promise<void> {
		const body = { id: crypto.randomUUID(), hub, part, supersedes: this.#before(hub, 'part', part) };
		await ask(
			api.POST('/api/cases/{case_id}/simulated/part', { params: { path: { case_id: this.id } }, body })
		);
		await this.refresh(false);
	}

	/** Write something of this case, at an address below it or a whole one: kept on this device first. Throws `Refused` where the server says no. */
	async write(what: string, body: Numbered, label: string): Promise<'sent' | 'waits'> {
		return outbox.enter(this.#draft(what, body, label));
	}

	/** The same, not waited for: what the server says no to stays in the tray. */
	async writeLater(what: string, body: Numbered, label: string): Promise<void> {
		await outbox.keep(this.#draft(what, body, label));
	}

	/** What waits to be written so. */
	waiting(what: string) {
		return outbox.writes(this.#path(what));
	}

	#path = (what: string) => (what.startsWith('/') ? what : `/api/cases/${this.id}/${what}`);

	#draft(what: string, body: Numbered, label: string) {
		const to = this.#path(what);
		return { id: body.id, caseId: this.id, label, kind: 'write' as const, method: 'POST' as const, to, body };
	}

	/** Keep a photograph of a part: on this device at once, then sent; the server takes place and time out of it. */
	async photograph(hub: string, part: string, picture: Blob, label: string): Promise<void> {
		const id = crypto.randomUUID();
		await outbox.keep({ id, caseId: this.id, label, kind: 'photo', hub, part, picture });
	}
}

export const provideCase = (id: string): CaseState => setContext(KEY, new CaseState(id));
export const useCase = (): CaseState => getContext<CaseState>(KEY);
