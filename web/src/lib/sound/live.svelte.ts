import { csrfToken, type Schemas } from '$lib/api/client';

export type SoFar = Schemas['LiveOut'];

const LEAST_S = 5;
const EVERY_S = 2.5;
const UNTIL_S = 32;
export const AWAY = 'The server cannot be reached: nothing is heard while recording, all of it afterwards.';

/** What has been heard so far of a recording that is still being made: one look at a time, every few seconds. */
export class LiveEar {
	found = $state.raw<SoFar | null>(null);
	/** Why nothing is heard meanwhile, '' while it is. */
	silent = $state('');
	#asked = 0;
	#waiting: AbortController | undefined;

	constructor(
		private readonly caseId: string,
		private readonly decided: () => void
	) {}

	begin() {
		this.end();
		this.found = null;
		this.silent = '';
		this.#asked = 0;
	}

	/** Let go of an answer that is still awaited: the recording is over. */
	end() {
		this.#waiting?.abort();
		this.#waiting = undefined;
	}

	/** Ask again where it is time: no look while another is under way, none before there is enough to hear. */
	async look(seconds: number, sound: () => Blob, made: Schemas['MadeIn'] | undefined) {
		if (!made || this.#waiting || seconds < LEAST_S || seconds > UNTIL_S || seconds < this.#asked + EVERY_S)
			return;
		this.#asked = seconds;
		const waiting = (this.#waiting = new AbortController());
		const form = new FormData();
		form.set('made', JSON.stringify(made));
		form.set('sound', sound(), 'so-far.wav');
		try {
			const headers = { 'X-CSRFToken': csrfToken() };
			const request = { method: 'POST', body: form, headers, signal: waiting.signal };
			const response = await fetch(`/api/cases/${this.caseId}/live`, request);
			const body = await response.json().catch(() => null);
			if (waiting.signal.aborted) return;
			this.silent = response.ok ? '' : (body?.message ?? AWAY);
			if (response.ok) this.found = body as SoFar;
		} catch {
			if (!waiting.signal.aborted) this.silent = AWAY;
		} finally {
			if (this.#waiting === waiting) this.#waiting = undefined;
		}
		if (this.found?.decided && !waiting.signal.aborted) this.decided();
	}
}
