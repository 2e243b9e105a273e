import { getContext, setContext } from 'svelte';
import { api, ask, wordsOf, type Schemas } from '$lib/api/client';
import { outbox, type Shown } from '$lib/outbox/outbox.svelte';

/** How often it is asked whether anything changed: more often while something is being heard. */
const ASK_MS = 3000;
const SOON_MS = 700;
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
	#asked = 0;
	#owed = false;
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

	/** Fetch all of it; or, after an answer, only the log and what is believed: recordings and verdicts stand. */
	async refresh(whole = true): Promise<void> {
		const number = ++this.#asked;
		const params = { params: { path: { case_id: this.id } } };
		this.#owed ||= whole; // a whole refresh that an answer overtakes is still owed
		const owed = this.#owed;
		try {
			const [detail, assessment, recordings, verdicts, photos] = await Promise.all([
				ask(api.GET('/api/cases/{case_id}', params)),
				ask(api.GET('/api/cases/{case_id}/assessment', params)),
				owed ? ask(api.GET('/api/cases/{case_id}/recordings', params)) : this.recordings,
				owed ? ask(api.GET('/api/cases/{case_id}/verdicts', params)) : this.verdicts,
				owed ? ask(api.GET('/api/cases/{case_id}/photos', params)) : this.photos
			]);
			if (number !== this.#asked) return;
			this.#owed = false;
			Object.assign(this, { detail, assessment, recordings, verdicts, photos, error: '' });
			this.changes += 1;
		} catch (error) {
			if (number === this.#asked) this.error = wordsOf(error);
		}
	}

	/** Take what the answer to an entry carried: no question need be asked, and one that is on its way is too old. */
	#take(shown: Shown): void {
		this.#asked++;
		Object.assign(this, shown, { error: '' });
		this.changes += 1;
		if (this.#owed) void this.refresh();
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
		const asked = this.#asked;
		const found = await ask(api.GET('/api/cases/{case_id}/state', params)).catch(() => null);
		if (found && found.state !== this.detail?.state && asked === this.#asked) await this.refresh();
	}

	/** Follow what anybody changes of this case; returns what stops it. */
	follow(): () => void {
		void this.refresh();
		this.#watch();
		const stop = outbox.onSent((entry, shown) => {
			if (entry.caseId !== this.id) return;
			if (shown) return this.#take(shown);
			if (entry.kind === 'write') this.changes += 1; // a job shows it at once, before all of the case is fetched
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
