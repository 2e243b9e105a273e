import { api, ask, csrfToken, NoNetwork, refusal, type Schemas } from '$lib/api/client';
import type { Entry } from './kept';

/** A case as it is shown, which the answer to an entry may carry. */
export type Shown = Schemas['ShownOut'];

/**
 * Send one. `judged`: the answer is to carry the case, judged anew; of several that wait only the last needs it.
 * Throws `Refused`, or `NoNetwork` where no server answered.
 */
export async function send(entry: Entry, judged: boolean): Promise<Shown | null> {
	// Another tab may have signed somebody else in: the server takes it from nobody but who entered it.
	const headers = { 'X-Entered-By': String(entry.owner) };
	if (entry.kind === 'observation') {
		const params = { path: { case_id: entry.caseId }, query: { judged } };
		const body = entry.body;
		return (await ask(api.POST('/api/cases/{case_id}/observations', { params, body, headers }))).shown;
	}
	const form = new FormData();
	form.set('id', entry.id);
	if (entry.kind === 'recording') {
		form.set('made', JSON.stringify(entry.made));
		form.set('sound', entry.sound, `${entry.id}.wav`);
	} else {
		form.set('hub', entry.hub);
		form.set('part', entry.part);
		form.set('picture', entry.picture, `${entry.id}.jpg`);
	}
	const to = `/api/cases/${entry.caseId}/${entry.kind === 'recording' ? 'recordings' : 'photos'}`;
	let response: Response;
	try {
		response = await fetch(to, {
			method: 'POST',
			body: form,
			headers: { ...headers, 'X-CSRFToken': csrfToken() }
		});
	} catch {
		throw new NoNetwork();
	}
	if (!response.ok) throw refusal(response.status, await response.json().catch(() => null));
	return null;
}

/** Fetch a new cookie against forged requests: the old one goes with the session that it was made for. */
export const renew = async (): Promise<void> => void (await ask(api.GET('/api/session')));
