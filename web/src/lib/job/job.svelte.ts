import { api, ask, wordsOf, type Schemas } from '$lib/api/client';
import type { CaseState } from '$lib/case/case.svelte';
import { hourNow, type Means } from './means';

export type Step = Schemas['StepOut'];
type Entered = Schemas['EntryIn'];

/** The work of a case as a screen holds it: the plan, what of it is done, and what waits on this device to be sent. */
export class JobState {
	job = $state.raw<Schemas['JobOut'] | null>(null);
	wrong = $state('');
	/** What is asked for next, while one question is on its way: ten ticks in a row ask twice, not ten times. */
	#owed: Means | null = null;
	#asking = false;

	constructor(readonly held: CaseState) {}

	/** Fetch it anew: now, or when the question that is on its way is answered. */
	async load(means: Means): Promise<void> {
		this.#owed = means;
		if (this.#asking) return;
		this.#asking = true;
		try {
			while (this.#owed) {
				const query = { ...this.#owed, at_h: hourNow() };
				this.#owed = null;
				const params = { path: { case_id: this.held.id }, query };
				const found = await ask(api.GET('/api/cases/{case_id}/job', { params }));
				Object.assign(this, { job: found, wrong: '' });
			}
		} catch (error) {
			this.wrong = wordsOf(error);
		} finally {
			this.#asking = false;
		}
	}

	/** What was entered here and is not at the server yet, by step. */
	readonly waiting = $derived.by(() => {
		const rows = this.held.waiting('job/entries').map((entry) => entry.body as Entered);
		return Object.fromEntries(
			rows.filter((row) => row.kind === 'done' || row.kind === 'undone').map((row) => [row.step, row.kind])
		);
	});

	/** The steps in their order, ticks that wait on this device as they were set. */
	readonly steps = $derived.by<Step[]>(() =>
		(this.job?.steps ?? []).map((step) => {
			const here = this.waiting[step.id];
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
		await this.held.writeLater('job/entries', { ...entry }, label);
	}

	/** Say what is fitted at a hub, or its torques: kept for its mate across the axle too. */
	async write(hub: string, book: Omit<Schemas['BookIn'], 'both_sides'>, label: string): Promise<void> {
		const vehicle = this.held.detail?.vehicle_detail.id;
		const body = { ...book, both_sides: true, id: crypto.randomUUID() };
		await this.held.writeLater(`/api/vehicles/${vehicle}/hubs/${hub}/book`, body, label);
	}
}
