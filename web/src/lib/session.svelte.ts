import { keepAnswersOf } from './offline';
import { speak, type Locale } from './language';
import { api, ask, onSignedOut, Refused, type Schemas } from './api/client';

type Light = 'day' | 'under';
/** What a role may or may not: the keys of the server's table. */
export type Need = 'work' | 'decide' | 'rule';

/** Who is signed in, the trade's tables, and how this person likes units and light. */
class Session {
	state = $state<'asking' | 'out' | 'in' | 'unreachable'>('asking');
	person = $state<Schemas['PersonOut'] | null>(null);
	/** Nobody can sign in yet: a workshop is to be set up. */
	setUp = $state(false);
	/** Whether the server sends mail. */
	mails = $state(false);
	demo = $state<Schemas['DemoOut'] | null>(null);
	reference = $state.raw<Schemas['ReferenceOut'] | null>(null);
	units = $state<Record<string, string>>({});
	/** The server has forgotten who is signed in: what is on the screen stays, and one signs in again beside it. */
	expired = $state(false);
	light = $state<Light>('day');
	/** That this server offers. */
	languages = $state.raw<Locale[]>([]);

	constructor() {
		onSignedOut(() => (this.expired = this.state === 'in'));
	}

	async load() {
		this.#setLight((localStorage.getItem('light') as Light) ?? 'day');
		try {
			await this.enter(await ask(api.GET('/api/session')));
		} catch {
			this.state = 'unreachable';
		}
	}

	async signIn(username: string, password: string, number = '') {
		await this.enter(await ask(api.POST('/api/session', { body: { username, password, number } })));
	}

	async signOut() {
		try {
			await this.enter(await ask(api.DELETE('/api/session')));
		} catch (error) {
			if (!(error instanceof Refused)) throw error;
			await this.load(); // it was over already
		}
	}

	/** Why the signed-in person may not, and whom to ask; empty where they may. */
	mayNot(need: Need): string {
		return this.person?.may_not[need] ?? '';
	}

	/** Take in what the server says of who is here. */
	async enter(session: Schemas['SessionOut']) {
		speak(session.language, this.state !== 'in');
		this.languages = session.languages as Locale[];
		this.demo = session.demo;
		this.setUp = session.set_up;
		this.mails = session.mails;
		this.expired = false;
		this.person = session.person;
		await keepAnswersOf(session.person ? `${session.person.id} ${session.language}` : '');
		if (session.person) {
			this.units = session.person.units;
			if (session.person.light) this.#setLight(session.person.light as Light);
			this.reference ??= await ask(api.GET('/api/reference'));
		}
		this.state = session.person ? 'in' : 'out';
	}

	#setLight(light: Light) {
		this.light = light;
		document.documentElement.dataset.light = light;
		localStorage.setItem('light', light);
	}

	async toggleLight() {
		this.#setLight(this.light === 'day' ? 'under' : 'day');
		await this.#keep();
	}

	async setUnit(quantity: string, unit: string) {
		this.units = { ...this.units, [quantity]: unit };
		await this.#keep();
	}

	/** The language of one's own, '' for the workshop's; the page opens again in it. */
	async choose(language: string) {
		const body = { units: this.units, language };
		speak((await ask(api.PUT('/api/preferences', { body }))).language);
	}

	/** The language of the workshop, for whoever chose none. */
	async chooseForAll(language: string) {
		speak((await ask(api.PUT('/api/workshop/language', { body: { language } }))).language);
	}

	/** Kept for the next visit; a lost network only means that it is not kept. */
	async #keep() {
		if (!this.person) return;
		const body = { units: this.units, light: this.light };
		await ask(api.PUT('/api/preferences', { body })).catch(() => undefined);
	}

	words(
		table: 'choices' | 'causes' | 'conditions' | 'line_kinds' | 'states' | 'surfaces',
		key: string
	): string {
		return this.reference?.[table].find((row) => row.key === key)?.words ?? key;
	}
}

export const session = new Session();
