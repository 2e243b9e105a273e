import { sendForm } from '$lib/api/client';

/** Read a logged course of speed on the server, which knows the formats; refuses in words. */
export async function readSpeedLog(file: File): Promise<number[][]> {
	const form = new FormData();
	form.set('log', file);
	return (await sendForm<{ points: number[][] }>('/api/speed-logs', form)).points;
}
