/// <reference types="@sveltejs/kit" />
/// <reference no-default-lib="true"/>
/// <reference lib="esnext" />
/// <reference lib="webworker" />

import { build, files, version } from '$service-worker';
import { API_CACHE, KEPT_SINCE } from './lib/offline';

/**
 * Opens the app without the server, and shows what this device saw last. Writes do not pass here: they wait in the
 * outbox, which knows whose they are.
 */
const worker = globalThis as unknown as ServiceWorkerGlobalScope;
const SHELL = `hematite-shell-${version}`;
const PAGE = '/';
const parts = new Set([...build, ...files]);
/** Too large to keep, or of no use when old. */
const NEVER = /\/(state|audio|band|bundle|paper|live)$|\/export\/|\/plot$|^\/api\/photos\//;
/** A link that hangs is as good as none, where something is kept. */
const PATIENCE_MS = 6000;

worker.addEventListener('install', (event) => {
	event.waitUntil(caches.open(SHELL).then((cache) => cache.addAll([...parts, PAGE])));
});

worker.addEventListener('activate', (event) => {
	const old = async () => {
		for (const name of await caches.keys())
			if (name.startsWith('hematite-shell-') && name !== SHELL) await caches.delete(name);
		await worker.clients.claim();
	};
	event.waitUntil(old());
});

worker.addEventListener('fetch', (event) => {
	const { request } = event;
	const url = new URL(request.url);
	if (request.method !== 'GET' || url.origin !== worker.location.origin) return;
	const toApi = url.pathname.startsWith('/api/');
	if (parts.has(url.pathname)) event.respondWith(part(request));
	else if (request.mode === 'navigate') {
		if (!toApi) event.respondWith(page(request)); // a paper or a file that is fetched is no page of ours
	} else if (toApi && !NEVER.test(url.pathname)) event.respondWith(asked(request));
});

async function part(request: Request): Promise<Response> {
	return (await caches.match(request, { cacheName: SHELL })) ?? fetch(request);
}

/** Every address is the same page. */
async function page(request: Request): Promise<Response> {
	const kept = await caches.match(PAGE, { cacheName: SHELL });
	return kept ? inTime(fetch(request), kept) : fetch(request);
}

async function asked(request: Request): Promise<Response> {
	const cache = await caches.open(API_CACHE);
	const answered = fetch(request).then(async (response) => {
		// A device without room shows less when the server is away; nothing else depends on it.
		if (response.ok) await cache.put(request, dated(response.clone())).catch(() => undefined);
		return response;
	});
	const kept = await cache.match(request);
	return kept ? inTime(answered, kept) : answered;
}

/** The answer, or what is kept where none comes. */
function inTime(answered: Promise<Response>, kept: Response): Promise<Response> {
	const late = new Promise<Response>((give) => setTimeout(() => give(kept), PATIENCE_MS));
	return Promise.race([answered, late]).catch(() => kept);
}

function dated(response: Response): Response {
	const headers = new Headers(response.headers);
	headers.set(KEPT_SINCE, new Date().toISOString());
	return new Response(response.body, { status: response.status, headers });
}
