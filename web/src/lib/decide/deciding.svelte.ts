import { session } from '$lib/session.svelte';

interface Decision {
	/** Made here, so that accepting twice decides once. */
	id: string;
	/** '' while the advice is followed. */
	choice: string;
	reason: string;
	/** The other side of the axle as well; empty while the workshop's way stands. */
	both?: boolean;
}

/** What one person is about to decide at each hub of a case; kept on the device until it is accepted. */
export class Deciding {
	#of = $state<Record<string, Decision>>({});
	readonly #key: string;

	constructor(caseId: string) {
		this.#key = `draft-decision-${session.person?.id}-${caseId}`;
		this.#of = JSON.parse(localStorage.getItem(this.#key) ?? '{}') as Record<string, Decision>;
	}

	at(hub: string): Decision {
		return this.#of[hub] ?? { id: '', choice: '', reason: '' };
	}

	set(hub: string, what: Partial<Omit<Decision, 'id'>>): void {
		const before = this.at(hub);
		this.#of[hub] = { ...before, ...what, id: before.id || crypto.randomUUID() };
		this.#keep();
	}

	/** The number under which a decision is accepted, made when it is first asked for. */
	number(hub: string): string {
		if (!this.at(hub).id) this.set(hub, {});
		return this.at(hub).id;
	}

	/** It is accepted: what comes next at this hub is another decision. */
	done(hub: string): void {
		this.#of = Object.fromEntries(Object.entries(this.#of).filter(([at]) => at !== hub));
		this.#keep();
	}

	#keep(): void {
		localStorage.setItem(this.#key, JSON.stringify(this.#of));
	}
}
