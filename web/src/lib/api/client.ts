import createClient from 'openapi-fetch';
import { connection } from '$lib/connection.svelte';
import { KEPT_SINCE } from '$lib/offline';
import type { components, paths } from './schema';

export type Schemas = components['schemas'];

/** The server understood and said no: words for the screen, and the fields that are wrong. */
export class Refused extends Error {
	constructor(
		readonly status: number,
		readonly code: string,
		message: string,
		readonly fields: Record<string, string> = {}
	) {
		super(message);
	}
}

/** The server was not reached. What was entered is still here. */
export class NoNetwork extends Error {
	constructor() {
		super(
			'The server cannot be reached. This was not sent; it still stands here. Try again when it is back.'
		);
	}
}

export function csrfToken(): string {
	return /(?:^|; )csrftoken=([^;]+)/.exec(document.cookie)?.[1] ?? '';
}

export const api = createClient<paths>({ baseUrl: '' });
api.use({
	onRequest({ request }) {
		request.headers.set('X-CSRFToken', csrfToken());
		return request;
	},
	onResponse({ response }) {
		connection.answered(response.headers.get(KEPT_SINCE));
	}
});

type Answer<T> = { data?: T; error?: unknown; response: Response };

/** Await one request: its data, or a Refused or NoNetwork thrown. */
export async function ask<T>(pending: Promise<Answer<T>>): Promise<T> {
	let answer: Answer<T>;
	try {
		answer = await pending;
	} catch {
		throw new NoNetwork();
	}
	if (answer.response.ok) return answer.data as T;
	throw refusal(answer.response.status, answer.error);
}

/** What to say where something that is done once, however often it is sent, was refused or not answered. */
export const notDone = (error: unknown, done: string): string =>
	error instanceof NoNetwork
		? `The server did not answer, so nobody knows whether it was ${done}. Send it again: nothing is ${done} twice.`
		: `${wordsOf(error)} Nothing was ${done}.`;

/** Send files and fields, and await what comes of them: a Refused or NoNetwork is thrown, as by `ask`. */
export async function sendForm<T>(to: string, form: FormData): Promise<T> {
	let response: Response;
	try {
		const headers = { 'X-CSRFToken': csrfToken() };
		response = await fetch(to, { method: 'POST', body: form, headers });
	} catch {
		throw new NoNetwork();
	}
	const body: unknown = await response.json().catch(() => null);
	if (!response.ok) throw refusal(response.status, body);
	return body as T;
}

let signedOut = () => {};
/** Whom to tell when the server knows nobody any more. */
export const onSignedOut = (tell: () => void) => (signedOut = tell);

export function refusal(status: number, body: unknown): Refused {
	if (status === 401) signedOut();
	const said = (typeof body === 'object' && body ? body : {}) as Partial<Schemas['RefusalOut']>;
	const words =
		said.message ?? `The server failed (${status}). Nothing you entered is lost; try again in a moment.`;
	return new Refused(status, said.code ?? 'failed', words, said.fields);
}

export function wordsOf(error: unknown): string {
	return error instanceof Error ? error.message : 'Something failed. Try again.';
}
