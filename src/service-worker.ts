/// <reference types="@sveltejs/kit" />
/// <reference lib="webworker" />
/**
 * Lets a page of a tank be opened again without a network: a run at the bench goes on where it stood, and what was
 * written is kept by the outbox. Built files come from the cache; pages from the network, and only without it as they were.
 */
import { build, files, version } from '$service-worker';
import { TAKE_OVER } from '$lib/client/kept-page';

const worker = globalThis as unknown as ServiceWorkerGlobalScope;
const BUILT = `built-${version}`;
const PAGES = 'pages';
/** What only one room needs, and is large, is fetched there. */
const SELDOM = /\.wasm$|\/recognition\//;
const built = new Set([...build, ...files].filter((file) => !SELDOM.test(file)));
/** Files that have not come by then end the installing, which is tried again; without an end it would wait for good, ms. */
const LONGEST_INSTALL = 60_000;
/** A network that says nothing for so long is none where the page is kept, ms. */
const LONGEST_ANSWER = 15_000;

worker.addEventListener('install', (event) => {
	const signal = AbortSignal.timeout(LONGEST_INSTALL);
	const files = [...built].map((file) => new Request(file, { signal }));
	event.waitUntil(caches.open(BUILT).then((cache) => cache.addAll(files)));
	void worker.skipWaiting();
});

worker.addEventListener('activate', (event) => {
	const outdated = async () => {
		for (const name of await caches.keys()) if (name !== BUILT && name !== PAGES) await caches.delete(name);
		await worker.clients.claim();
	};
	event.waitUntil(outdated());
});

worker.addEventListener('message', (event) => {
	if (event.data === TAKE_OVER) event.waitUntil(worker.clients.claim());
});

worker.addEventListener('fetch', (event) => {
	const { request } = event;
	const url = new URL(request.url);
	if (request.method !== 'GET' || url.origin !== location.origin) return;
	if (built.has(url.pathname)) event.respondWith(fromBuilt(request));
	else if (url.pathname.startsWith('/s/')) event.respondWith(fresh(request));
});

async function fromBuilt(request: Request): Promise<Response> {
	return (await (await caches.open(BUILT)).match(request)) ?? fetch(request);
}

async function fresh(request: Request): Promise<Response> {
	const pages = await caches.open(PAGES);
	const keptInTime = after(LONGEST_ANSWER).then(() => keptOf(pages, request));
	try {
		const answer = fetch(request);
		answer.catch(() => undefined);
		const response = (await Promise.race([answer, keptInTime])) ?? (await answer);
		// A hotel's sign-in page comes under our address too: only what bears our mark is ours.
		const ours = response.headers.has('tevrik-now');
		// A full disk keeps nothing, and shows the page all the same.
		if (ours && response.ok && !response.redirected)
			await pages.put(request, response.clone()).catch(() => undefined);
		const serves = ours && response.status < 500;
		return serves ? response : ((await keptOf(pages, request)) ?? response);
	} catch (failure) {
		const kept = await keptOf(pages, request);
		if (kept) return kept;
		throw failure;
	}
}

const after = (ms: number): Promise<void> => new Promise((done) => setTimeout(done, ms));

/** A run that was begun here has never been asked for under its own address. */
const keptOf = async (pages: Cache, request: Request): Promise<Response | undefined> =>
	(await pages.match(request)) ?? (await pages.match(request, { ignoreSearch: true }));
