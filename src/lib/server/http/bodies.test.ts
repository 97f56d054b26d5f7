import { expect, it } from 'vitest';
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
	expect((await (await withBody(request, 10 * 1024))!.text()).length).toBe(10 * 1024);
	const bare = new Request('http://x/');
	expect(await withBody(bare, 1)).toBe(bare);
});

it('bytes are counted, and no more taken than has to be', async () => {
	const long = sent(1000);
	expect(await withBody(long.request, 5 * 1024)).toBeUndefined();
	expect(long.taken()).toBeLessThan(10);
	// A header that promises little is not believed; one that promises too much is.
	const lying = sent(1000, { 'content-length': '10' });
	expect(await withBody(lying.request, 5 * 1024)).toBeUndefined();
	expect(lying.taken()).toBeLessThan(10);
	const honest = sent(1000, { 'content-length': String(1_024_000) });
	expect(await withBody(honest.request, 5 * 1024)).toBeUndefined();
	expect(honest.taken()).toBe(0);
});
