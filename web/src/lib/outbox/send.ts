import { api, ask, csrfToken, NoNetwork, refusal, type Schemas } from '$lib/api/client';
import type { Entry } from './kept';

/** A case as it is shown, which the answer to an entry may carry. */
export type Shown = Schemas['ShownOut'];

/**
 * Send one. `judged`: the answer is to carry the case, judged anew; of several that wait only the last needs it.
 * Throws `Refused`, or `NoNetwork` where no server answered.
 */
export async function send(entry: Entry, judged: boolean): Promise<Shown | null> {
	// What it waited counts, not what the clock said: clocks are wrong, and set.
	const waited_s = Math.max(Date.now() - entry.made_ms, 0) / 1000;
	if (entry.kind === 'observation') {
		const to = `/api/cases/${entry.caseId}/observations?judged=${judged}`;
		const said = (await post(entry, to, { ...entry.body, waited_s })) as Schemas['LoggedOut'];
		return said.shown;
	}
	const body = entry.kind === 'write' && 'waited_s' in entry.body ? { ...entry.body, waited_s } : undefined;
	if (entry.kind === 'write') await post(entry, entry.to, body ?? entry.body, entry.method);
	else await post(entry, `/api/cases/${entry.caseId}/${entry.kind}s`, form(entry));
	return null;
}

function form(entry: Entry & { kind: 'recording' | 'photo' }): FormData {
	const filled = new FormData();
	filled.set('id', entry.id);
	if (entry.kind === 'recording') {
		filled.set('made', JSON.stringify(entry.made));
		filled.set('sound', entry.sound, `${entry.id}.wav`);
	} else {
		filled.set('hub', entry.hub);
		filled.set('part', entry.part);
		filled.set('picture', entry.picture, `${entry.id}.jpg`);
	}
	return filled;
}

/**
 * How long an answer is waited for, and how much longer for every MB that goes out: a line that is neither there nor
 * gone, at the edge of the workshop's network, would hold up everything for ever.
 */
const ANSWER_MS = 30_000;
const MB_MS = 20_000;

const patience = (entry: Entry): number => {
	const file = entry.kind === 'recording' ? entry.sound : entry.kind === 'photo' ? entry.picture : undefined;
	return ANSWER_MS + ((file?.size ?? 0) / 1e6) * MB_MS;
};

async function post(entry: Entry, to: string, body: unknown, method = 'POST'): Promise<unknown> {
	const whole = body instanceof FormData;
	let response: Response;
	try {
		response = await fetch(to, {
			method,
			body: whole ? body : JSON.stringify(body),
			signal: AbortSignal.timeout(patience(entry)),
			headers: {
				...(whole ? {} : { 'Content-Type': 'application/json' }),
				'X-CSRFToken': csrfToken(),
				// Another tab may have signed somebody else in: the server takes it from nobody but who entered it.
				'X-Entered-By': String(entry.owner)
			}
		});
	} catch {
		throw new NoNetwork();
	}
	const said: unknown = await response.json().catch(() => null);
	if (!response.ok) throw refusal(response.status, said);
	return said;
}

/** Fetch a new cookie against forged requests: the old one goes with the session that it was made for. */
export const renew = async (): Promise<void> => void (await ask(api.GET('/api/session')));
