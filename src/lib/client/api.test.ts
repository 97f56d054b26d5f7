import { afterEach, describe, expect, it, vi } from 'vitest';
import { below, call } from './api';

const json = (body: unknown, status = 200, type = 'application/json') =>
	new Response(JSON.stringify(body), { status, headers: { 'content-type': type } });
const answering = (answer: () => Response | Promise<Response>) => {
	const asked = vi.fn<typeof fetch>(async () => answer());
	vi.stubGlobal('fetch', asked);
	return asked;
};
afterEach(() => vi.unstubAllGlobals());

describe('a request to our own API', () => {
	it('gives what is answered, and sends plain data as JSON and a file as it is', async () => {
		const asked = answering(() => json({ id: 'a' }));
		expect(await call('PUT', '/api/v1/packs/a', { label: 'A' })).toEqual({ ok: true, value: { id: 'a' } });
		expect(asked.mock.calls[0]![1]).toMatchObject({ method: 'PUT', body: '{"label":"A"}' });
		const file = new Blob(['{}']);
		await call('PUT', '/api/v1/systems/a/book', file);
		expect(asked.mock.calls[1]![1]!.body).toBe(file);
		await call('GET', '/api/v1/readings/a');
		expect(asked.mock.calls[2]![1]).not.toHaveProperty('body');
	});

	it.each([
		[
			'places that are wrong',
			json({ problems: [{ path: '/profile/name', message: 'is too long' }] }, 422),
			'/name',
			'is too long'
		],
		[
			'a sentence about all of it',
			json({ detail: 'It changed meanwhile.' }, 409),
			'',
			'It changed meanwhile.'
		],
		['an error page’s words', json({ message: 'There is no such pack.' }, 404), '', 'There is no such pack.'],
		['no words at all', new Response(null, { status: 502 }), '', /does not answer/],
		['a hotel’s sign-in page', new Response('<html>Room number?</html>'), '', /does not answer/]
	])('gives the server’s words: %s', async (_, response, path, message) => {
		answering(() => response);
		const said = await call('PUT', '/api/v1/methods/a', {});
		if (said.ok) throw new Error('it was taken');
		expect(below('/profile', said.problems)).toEqual([
			{ path, message: expect.stringMatching(message) as string }
		]);
	});

	it('is a problem without a network, not an error', async () => {
		answering(() => Promise.reject(new TypeError('Failed to fetch')));
		expect(await call('DELETE', '/api/v1/packs/a')).toMatchObject({ ok: false });
	});
});
