import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { TAKE_OVER, keepPage } from './kept-page';

/** A browser of which only what is asked here exists: whether a worker has taken the page over, and what is kept. */
function browser({
	controlled = true,
	active = undefined
}: { controlled?: boolean; active?: { postMessage: (said: string) => void } | undefined } = {}) {
	const worker = Object.assign(new EventTarget(), {
		controller: controlled ? {} : null,
		register: vi.fn(async () => ({ active }))
	});
	let kept = false;
	const fetched = vi.fn(async () => new Response());
	vi.stubGlobal('navigator', { serviceWorker: worker });
	vi.stubGlobal('caches', { match: async () => (kept ? new Response() : undefined) });
	vi.stubGlobal('fetch', fetched);
	return {
		worker,
		fetched,
		keeps: () => (kept = true),
		takesOver: () => {
			worker.controller = {};
			worker.dispatchEvent(new Event('controllerchange'));
		}
	};
}
beforeEach(() => void vi.useFakeTimers());
afterEach(() => {
	vi.useRealTimers();
	vi.unstubAllGlobals();
});
const open = () => new AbortController();

it('asks until it is kept, less and less often', async () => {
	const here = browser();
	const done = keepPage('/s/a/bench?run=b', open().signal);
	await vi.advanceTimersByTimeAsync(500 + 1000 + 2000 + 100);
	expect(here.fetched).toHaveBeenCalledTimes(4);
	here.keeps();
	await vi.advanceTimersByTimeAsync(4000);
	await done;
	expect(here.fetched).toHaveBeenCalledTimes(5);
});

it('asks again where an answer was lost on its way', async () => {
	vi.useRealTimers();
	const ends = vi.spyOn(AbortSignal, 'timeout').mockReturnValue(AbortSignal.abort());
	const here = browser();
	here.fetched.mockImplementation((async (_: string, { signal }: RequestInit) => {
		if (here.fetched.mock.calls.length > 1) return (here.keeps(), new Response());
		return signal?.aborted ? Promise.reject(new Error('late')) : new Promise(() => {});
	}) as never);
	await keepPage('/s/a/bench?run=b', open().signal);
	expect(here.fetched).toHaveBeenCalledTimes(2);
	ends.mockRestore();
});

it('waits for the worker to take the page over, and asks at once when it does', async () => {
	const here = browser({ controlled: false });
	here.fetched.mockImplementation(async () => {
		here.keeps();
		return new Response();
	});
	const done = keepPage('/s/a/bench?run=b', open().signal);
	await vi.advanceTimersByTimeAsync(100);
	expect(here.fetched).not.toHaveBeenCalled();
	here.takesOver();
	await vi.advanceTimersByTimeAsync(1);
	await done;
	expect(here.fetched).toHaveBeenCalledTimes(1);
});

it('registers a worker again whose first try left none', async () => {
	const here = browser({ controlled: false });
	const left = open();
	void keepPage('/s/a/bench?run=b', left.signal);
	await vi.advanceTimersByTimeAsync(3000);
	expect(here.worker.register).toHaveBeenCalledWith('/service-worker.js');
	left.abort();
});

it('asks a worker that overlooked the page to take it over', async () => {
	const postMessage = vi.fn();
	const here = browser({ controlled: false, active: { postMessage } });
	postMessage.mockImplementation(() => (here.keeps(), here.takesOver()));
	const done = keepPage('/s/a/bench?run=b', open().signal);
	await vi.advanceTimersByTimeAsync(3000);
	await done;
	expect(postMessage).toHaveBeenCalledWith(TAKE_OVER);
	expect(here.fetched).toHaveBeenCalled();
});

it('asks no more when the page is left, and needs no worker at all', async () => {
	const here = browser();
	const left = open();
	const done = keepPage('/s/a/bench?run=b', left.signal);
	await vi.advanceTimersByTimeAsync(100);
	left.abort();
	await done;
	await vi.advanceTimersByTimeAsync(120_000);
	expect(here.fetched).toHaveBeenCalledTimes(1);
	vi.stubGlobal('navigator', {});
	await keepPage('/s/a/bench?run=b', open().signal);
});
