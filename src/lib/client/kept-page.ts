/** The first pause, ms, and the longest; each pause is twice the one before it. */
const FIRST_PAUSE = 500;
const LONGEST_PAUSE = 15_000;
/** An answer that has not come by then is not waited for, ms: one lost on its way would end the asking. */
const LONGEST_ANSWER = 15_000;

/** Said to the worker by a page that it has not taken over. */
export const TAKE_OVER = 'take over';

/**
 * Asks for a page under its own address until the service worker keeps it, so that a reload finds it without a network.
 * One try is not enough: a first visit is taken over by the worker a moment after it has come, a worker that could not
 * be fetched whole is none, and a busy server may refuse.
 */
export async function keepPage(address: string, closed: AbortSignal): Promise<void> {
	const worker = navigator.serviceWorker;
	if (!worker || typeof caches === 'undefined') return;
	for (let pause = FIRST_PAUSE; !closed.aborted; pause = Math.min(2 * pause, LONGEST_PAUSE)) {
		const late = AbortSignal.any([closed, AbortSignal.timeout(LONGEST_ANSWER)]);
		if (worker.controller) await fetch(address, { signal: late }).catch(() => undefined);
		if (await caches.match(address)) return;
		// A first try that failed has left none behind; and a page that was still on its way when the worker took over all it
		// knew of is nobody's until it asks. The answer may never come: it is not waited for.
		if (!worker.controller && pause > FIRST_PAUSE)
			worker
				.register('/service-worker.js')
				.then(({ active }) => active?.postMessage(TAKE_OVER))
				.catch(() => undefined);
		await changed(worker, pause, closed);
	}
}

/** Until a worker takes the page over, the time is up, or nobody wants it any more. */
const changed = (worker: ServiceWorkerContainer, ms: number, closed: AbortSignal): Promise<void> =>
	new Promise((done) => {
		const settle = () => {
			clearTimeout(timer);
			worker.removeEventListener('controllerchange', settle);
			closed.removeEventListener('abort', settle);
			done();
		};
		const timer = setTimeout(settle, ms);
		worker.addEventListener('controllerchange', settle);
		closed.addEventListener('abort', settle);
	});
