import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { LONGEST_BODY, LONGEST_BOOK, LONGEST_SHEET, longestBody, withBody } from './bodies';

/** A request whose body comes in pieces of a kilobyte; how many were taken. */
function sent(kilobytes: number, headers: Record<string, string> = {}) {
	let taken = 0;
	const body = new ReadableStream<Uint8Array>(
		{
			pull(controller) {
				if (taken === kilobytes) return controller.close();
				taken++;
				controller.enqueue(new Uint8Array(1024).fill(97));
			}
		},
		{ highWaterMark: 0 }
	);
	const request = new Request('http://x/', { method: 'POST', body, headers, duplex: 'half' } as RequestInit);
	return { request, taken: () => taken };
}

it('files may be long for people who are known, and for their addresses only', () => {
	const tank = '/api/v1/systems/x';
	expect(longestBody('PUT', `${tank}/book`, true)).toBe(LONGEST_BOOK);
	expect(longestBody('POST', `${tank}/imports`, true)).toBe(LONGEST_SHEET);
	for (const [method, path, known] of [
		['PUT', `${tank}/book`, false],
		['POST', `${tank}/imports`, false],
		['POST', `${tank}/book`, true],
		['POST', `/signin${tank}/imports`, true],
		['PUT', `${tank}/book/more`, true],
		['POST', '/signin', true]
	] as const)
		expect(longestBody(method, path, known)).toBe(LONGEST_BODY);
});

it('what fits is handed on whole', async () => {
	const { request } = sent(10);
	const body = await withBody(request, 10 * 1024, 'here');
	expect('request' in body && (await body.request.text()).length).toBe(10 * 1024);
	const bare = new Request('http://x/');
	expect(await withBody(bare, 1, 'here')).toEqual({ request: bare });
});

it('bytes are counted, and no more taken than has to be', async () => {
	const long = sent(1000);
	expect(await withBody(long.request, 5 * 1024, 'here')).toEqual({ refused: 'too long' });
	expect(long.taken()).toBeLessThan(10);
	// A header that promises little is not believed; one that promises too much is.
	const lying = sent(1000, { 'content-length': '10' });
	expect(await withBody(lying.request, 5 * 1024, 'here')).toEqual({ refused: 'too long' });
	expect(lying.taken()).toBeLessThan(10);
	const honest = sent(1000, { 'content-length': String(1_024_000) });
	expect(await withBody(honest.request, 5 * 1024, 'here')).toEqual({ refused: 'too long' });
	expect(honest.taken()).toBe(0);
});

describe('whoever sends and stops', () => {
	beforeEach(() => void vi.useFakeTimers());
	afterEach(() => void vi.useRealTimers());
	/** A body of which so many bytes come every second, for so many seconds. */
	function slow(bytes: number, seconds: number): Request {
		const body = new ReadableStream<Uint8Array>({
			async start(controller) {
				for (let n = 0; n < seconds; n++) {
					controller.enqueue(new Uint8Array(bytes));
					await new Promise((done) => setTimeout(done, 1000));
				}
			}
		});
		return new Request('http://x/', { method: 'POST', body, duplex: 'half' } as RequestInit);
	}

	it('is not waited for, nor who sends a byte now and then; what they held is free again', async () => {
		const place = 'a slow place';
		const stopped = Array.from({ length: 100 }, () => withBody(slow(10_000, 1), 1e6, place));
		expect(await withBody(slow(1, 1), 1e6, place)).toEqual({ refused: 'too many' });
		const elsewhere = withBody(slow(1, 60), 1e6, 'another place');
		await vi.advanceTimersByTimeAsync(11_000);
		expect(new Set((await Promise.all(stopped)).map((b) => JSON.stringify(b)))).toEqual(
			new Set(['{"refused":"too slow"}'])
		);
		await vi.advanceTimersByTimeAsync(2000);
		expect(await elsewhere).toEqual({ refused: 'too slow' });
		const { request } = sent(3);
		expect(await withBody(request, 1e6, place)).toHaveProperty('request');
	});

	it('is waited for as long as it comes: a sheet over a slow line', async () => {
		const sheet = slow(5000, 120);
		const body = withBody(sheet, 1e6, 'the end of a lane');
		await vi.advanceTimersByTimeAsync(100_000);
		expect(await Promise.race([body, Promise.resolve('still coming')])).toBe('still coming');
		await vi.advanceTimersByTimeAsync(40_000);
		expect(await body).toEqual({ refused: 'too slow' });
	});
});
