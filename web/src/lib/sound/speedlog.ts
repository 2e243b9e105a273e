import { csrfToken, NoNetwork, refusal } from '$lib/api/client';

/** Read a logged course of speed on the server, which knows the formats; refuses in words. */
export async function readSpeedLog(file: File): Promise<number[][]> {
	const form = new FormData();
	form.set('log', file);
	let response: Response;
	try {
		const headers = { 'X-CSRFToken': csrfToken() };
		response = await fetch('/api/speed-logs', { method: 'POST', body: form, headers });
	} catch {
		throw new NoNetwork();
	}
	const body = await response.json().catch(() => null);
	if (!response.ok) throw refusal(response.status, body);
	return (body as { points: number[][] }).points;
}
