import { api, ask, wordsOf, type Schemas } from '$lib/api/client';
import { coalesced } from '$lib/coalesced';
import { said } from './figures';

type Values = Record<string, unknown>;

/** One sum at a hub: what it is asked with, kept on the device as it is typed, and its answer as that comes. */
export class SumState {
	values = $state<Values>({});
	answer = $state.raw<Schemas['SumAnswerOut'] | null>(null);
	wrong = $state('');
	readonly #key: string;
	/** What somebody typed: it alone is kept on the device, and counts more than what is filled in. */
	#typed: Values;

	constructor(
		readonly sum: Schemas['SumOut'],
		readonly at: { case: string; hub: string },
		filled: Values,
		person: number | undefined
	) {
		this.#key = `draft-sum-${person}-${at.case}-${at.hub}-${sum.key}`;
		this.#typed = JSON.parse(localStorage.getItem(this.#key) ?? '{}') as Values;
		this.values = { ...filled, ...this.#typed };
	}

	set(key: string, value: unknown): void {
		this.values[key] = value;
		this.#typed = { ...this.#typed, [key]: value };
		localStorage.setItem(this.#key, JSON.stringify(this.#typed));
		void this.work();
	}

	/** Ask for the answer, now or when the one that is on its way is there: the last that was asked counts. */
	readonly #ask = coalesced(async (values: Values) => {
		try {
			const place = this.at.case ? { case: this.at.case, hub: this.at.hub } : { hub: '' };
			const params = { path: { key: this.sum.key } };
			const found = await ask(api.POST('/api/sums/{key}', { params, body: { values, ...place } }));
			Object.assign(this, { answer: found, wrong: '' });
		} catch (error) {
			this.wrong = wordsOf(error);
		}
	});

	work(): Promise<void> {
		return this.#ask(said($state.snapshot(this.values) as Values));
	}

	/** What is sent when it is kept. */
	kept(step: string) {
		const values = said($state.snapshot(this.values) as Values);
		return { id: crypto.randomUUID(), hub: this.at.hub, step, sum: this.sum.key, values };
	}

	/** What is known has changed: it is filled in where nobody typed. */
	refill(filled: Values): void {
		this.values = { ...filled, ...this.#typed };
		if (this.answer) void this.work();
	}

	/** It is kept: what was typed still stands on the screen, and need not be on the device any more. */
	done(): void {
		localStorage.removeItem(this.#key);
	}
}
