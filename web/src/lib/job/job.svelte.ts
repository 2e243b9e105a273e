import { api, ask, wordsOf, type Schemas } from '$lib/api/client';
import type { CaseState } from '$lib/case/case.svelte';
import { coalesced } from '$lib/coalesced';
import { outbox } from '$lib/outbox/outbox.svelte';
import { hourNow, type Means } from './means';

export type Step = Schemas['StepOut'];
type Entered = Schemas['EntryIn'];

const isTick = (row: Entered) => row.kind === 'done' || row.kind === 'undone';

/** The work of a case as a screen holds it: the plan, what of it is done, and what waits on this device to be sent. */
export class JobState {
	job = $state.raw<Schemas['JobOut'] | null>(null);
	wrong = $state('');
	/** What was ticked here, until an answer that was asked for after it reached the server shows it. */
	#mine = $state.raw<Record<string, { kind: string; id: string; turn: number }>>({});
	#turn = 0;

	constructor(readonly held: CaseState) {}

	/** Fetch it anew: now, or when the question that is on its way is answered. */
	readonly load = coalesced(async (means: Means) => {
		const [turn, waited] = [this.#turn, this.#waiting().map((entry) => entry.id)] as const;
		try {
			const params = { path: { case_id: this.held.id }, query: { ...means, at_h: hourNow() } };
			const found = await ask(api.GET('/api/cases/{case_id}/job', { params }));
			const kept = Object.entries(this.#mine).filter(([, row]) => row.turn > turn || waited.includes(row.id));
			this.#mine = Object.fromEntries(kept);
			Object.assign(this, { job: found, wrong: '' });
		} catch (error) {
			this.wrong = wordsOf(error);
		}
	});

	#waiting = () => this.held.waiting('job/entries');

	/** What was ticked on this device before this page was opened, and still waits. */
	readonly waiting = $derived.by(() => {
		const rows = this.#waiting().map((entry) => entry.body as Entered);
		return Object.fromEntries(rows.filter(isTick).map((row) => [row.step, row.kind]));
	});

	/** The steps in their order, ticks that wait on this device as they were set. */
	readonly steps = $derived.by<Step[]>(() =>
		(this.job?.steps ?? []).map((step) => {
			const mine = this.#mine[step.id];
			const here = mine && !outbox.refusalOf(mine.id) ? mine.kind : this.waiting[step.id];
			return here ? { ...step, done: here === 'done' } : step;
		})
	);

	readonly left = $derived(this.steps.filter((step) => !step.done));

	/** The step that is asked for, else the first that is left, else the last. */
	at(id: string | null): Step | undefined {
		return this.steps.find((step) => step.id === id) ?? this.left[0] ?? this.steps.at(-1);
	}

	/** Enter something at a step: on this device at once, then sent. */
	async enter(
		step: string,
		kind: Entered['kind'],
		label: string,
		more: Partial<Entered> = {}
	): Promise<void> {
		const entry: Entered = { rung: '', note: '', quantity: '', ...more, id: crypto.randomUUID(), step, kind };
		if (isTick(entry)) this.#mine = { ...this.#mine, [step]: { kind, id: entry.id, turn: ++this.#turn } };
		await this.held.writeLater('job/entries', { ...entry }, label);
	}

	/** Say what is fitted at a hub, or its torques: kept for its mate across the axle too. */
	async write(hub: string, book: Omit<Schemas['BookIn'], 'both_sides'>, label: string): Promise<void> {
		const vehicle = this.held.detail?.vehicle_detail.id;
		const body = { ...book, both_sides: true, id: crypto.randomUUID() };
		await this.held.writeLater(`/api/vehicles/${vehicle}/hubs/${hub}/book`, body, label);
	}
}
