import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { expectedId, type PendingWrite } from './pending-write';
import { openSender, type Sender, type SenderState } from './sender';

const RUN = '01890000-0000-7000-8000-000000000001';
const READING = '01890000-0000-7000-8000-000000000002';
const OTHER = '01890000-0000-7000-8000-000000000003';
const EVENT = (n: number) => `01890000-0000-7000-8000-0000000000${10 + n}`;

const json = (body: unknown, status = 200, headers: Record<string, string> = {}) =>
	new Response(JSON.stringify(body), {
		status,
		headers: { 'content-type': status < 400 ? 'application/json' : 'application/problem+json', ...headers }
	});
const problem = (status: number, detail: string, headers = {}) => json({ status, detail }, status, headers);
const has = (w: PendingWrite) => json({ id: expectedId(w) });

/** A device with things to send, on a network that does as the test says. */
function device(answer: (write: PendingWrite, sent: PendingWrite[]) => Response | Promise<Response>) {
	const kept = new Map<string, PendingWrite>();
	const sent: PendingWrite[] = [];
	const at: number[] = [];
	const states: SenderState[] = [];
	/** Pictures that came along. */
	const pictures: string[] = [];
	let arrivals = 0;
	let counted = 0;
	const sender = openSender({
		waiting: () => [...kept.values()],
		keep: (w) => void kept.set(w.id, w),
		remove: (id) => void kept.delete(id),
		fetch: (async (path: string, init: RequestInit) => {
			const { picture, ...body } = JSON.parse(String(init.body)) as { picture?: string };
			const write = [...kept.values()].find(
				(w) => w.path === path && JSON.stringify(w.body) === JSON.stringify(body)
			)!;
			if (picture !== undefined) pictures.push(picture);
			sent.push(write);
			at.push(Date.now());
			return Promise.race([
				answer(write, sent),
				new Promise<never>((_, refuse) =>
					init.signal!.addEventListener('abort', () => refuse(init.signal!.reason))
				)
			]);
		}) as typeof fetch,
		picture: async (key) => (key === 'gone' ? undefined : `the picture ${key}`),
		random: () => 0.5,
		alone: (work) => work(),
		onarrived: () => arrivals++,
		onstate: (s) => states.push(s)
	});
	open.push(sender);
	return {
		sender,
		kept,
		sent,
		at,
		states,
		pictures,
		get arrivals() {
			return arrivals;
		},
		post(path: string, more: Partial<PendingWrite> = {}) {
			const seq = ++counted;
			// Ids by a clock that was set back: later writes have earlier ones.
			const id = `write-${100 - seq}`;
			kept.set(id, { id, seq, path, method: 'PUT', body: { n: seq }, about: `write ${seq}`, ...more });
			sender.wake();
			return id;
		}
	};
}
const open: Sender[] = [];
const reading = (id = READING) => `/api/v1/readings/${id}`;
const minutes = (n: number) => vi.advanceTimersByTimeAsync(n * 60_000);
const settle = () => vi.advanceTimersByTimeAsync(0);

beforeEach(() => void vi.useFakeTimers());
afterEach(() => {
	open.splice(0).forEach((s) => s.close());
	vi.useRealTimers();
});

describe('while nobody answers', () => {
	it('a picture that lies apart goes along; without it there is nothing to send', async () => {
		const it = device(has);
		it.post(`/api/v1/photos/${OTHER}`, { picture: 'here' });
		it.post(`/api/v1/photos/${READING}`, { picture: 'gone' });
		it.sender.retry();
		await vi.runAllTimersAsync();
		expect(it.pictures).toEqual(['the picture here']);
		expect([...it.kept.values()].map((w) => w.problems)).toEqual([
			[{ path: '', message: 'This device no longer has the picture.' }]
		]);
	});

	it('tries less and less often, however much waits, and at once when the network is back', async () => {
		let back = false;
		const d = device((w) => (back ? has(w) : Promise.reject(new TypeError('no network'))));
		for (let i = 0; i < 40; i++) d.post(reading(EVENT(i)));
		await minutes(60);
		expect(d.sent.length).toBeLessThan(25);
		const pauses = d.at.slice(1).map((t, i) => t - d.at[i]!);
		expect(pauses.slice(0, 5)).toEqual([1000, 2000, 4000, 8000, 16_000]);
		expect(Math.max(...pauses)).toBe(5 * 60_000);
		d.post(reading(OTHER));
		await settle();
		expect(Date.now() - d.at.at(-1)!).toBeGreaterThan(0);
		back = true;
		d.sender.retry();
		await settle();
		expect(d.kept.size).toBe(0);
		expect(d.arrivals).toBe(1);
		expect(d.states.at(-1)).toBe('idle');
	});

	it('gives up on an answer that never comes', async () => {
		let deaf = true;
		const d = device((w) => (deaf ? new Promise<never>(() => undefined) : has(w)));
		d.post(reading());
		await minutes(0.3);
		expect(d.kept.size).toBe(1);
		deaf = false;
		await minutes(1);
		expect(d.kept.size).toBe(0);
	});

	it('waits as long as the server asks', async () => {
		const d = device((w, sent) =>
			sent.length === 1 ? problem(503, 'not now', { 'retry-after': '90' }) : has(w)
		);
		d.post(reading());
		await minutes(1.4);
		expect(d.sent.length).toBe(1);
		await minutes(0.2);
		expect(d.kept.size).toBe(0);
	});
});

it.each<[string, () => Response]>([
	[
		'a hotel’s sign-in page',
		() => new Response('<h1>Welcome</h1>', { headers: { 'content-type': 'text/html' } })
	],
	['somebody’s JSON', () => json({ ok: true })],
	['the answer to something else', () => json({ id: OTHER })],
	['JSON that breaks off', () => new Response('{"id":', { headers: { 'content-type': 'application/json' } })],
	['a proxy’s refusal', () => new Response('Forbidden', { status: 403 })],
	['a proxy’s refusal as JSON', () => json({ error: 'blocked' }, 403)],
	['a proxy that asks who is there', () => new Response('', { status: 401 })]
])('%s is not the server: what waits goes on waiting', async (_name, foreign) => {
	const d = device((w, sent) => (sent.length === 1 ? foreign() : has(w)));
	d.post(reading());
	await settle();
	expect([...d.kept.values()].map((w) => w.problems)).toEqual([undefined]);
	await minutes(1);
	expect(d.kept.size).toBe(0);
});

it.each([408, 413, 500, 502])(
	'status %i of one write holds up only what follows of the same thing',
	async (status) => {
		let ill = true;
		const d = device((w) => (w.path.startsWith(reading()) && ill ? problem(status, 'later') : has(w)));
		const first = d.post(reading());
		const second = d.post(`${reading()}/void`);
		d.post(reading(OTHER));
		await settle();
		expect([...d.kept.keys()].sort()).toEqual([first, second].sort());
		expect(d.sent.filter((w) => w.id === second)).toEqual([]);
		ill = false;
		await minutes(2);
		expect(d.kept.size).toBe(0);
	}
);

it('too many at once: all wait, and none is given up', async () => {
	const d = device((w, sent) => (sent.length < 3 ? problem(429, 'slowly', { 'retry-after': '5' }) : has(w)));
	d.post(reading());
	d.post(reading(OTHER));
	await minutes(1);
	expect(d.kept.size).toBe(0);
});

it('signed out: nothing is lost, and it goes on after signing in', async () => {
	let signedIn = false;
	const d = device((w) => (signedIn ? has(w) : problem(401, 'Sign in, or send a token.')));
	d.post(reading());
	await minutes(5);
	expect(d.states).toContain('sign in');
	expect(d.kept.size).toBe(1);
	expect(d.sent.length).toBeLessThan(8);
	signedIn = true;
	d.sender.retry();
	await settle();
	expect(d.kept.size).toBe(0);
});

it('what is refused for good says why and holds up nobody, not even of the same run', async () => {
	const d = device((w) =>
		w.path.endsWith('/runs/' + RUN)
			? json({ status: 422, problems: [{ path: '/begin/at', message: 'lies in the future' }] }, 422)
			: has(w)
	);
	const begin = d.post(`/api/v1/runs/${RUN}`);
	d.post(reading(), { body: { runId: RUN } });
	await settle();
	expect([...d.kept.keys()]).toEqual([begin]);
	expect(d.kept.get(begin)!.problems).toEqual([{ path: '/begin/at', message: 'lies in the future' }]);
	const sends = d.sent.length;
	await minutes(30);
	expect(d.sent.length).toBe(sends);
});

it('keeps the order of a run whatever the clock says, and a step waits for its beginning', async () => {
	let lost = 1;
	const d = device((w) => (lost-- > 0 ? Promise.reject(new TypeError('no network')) : has(w)));
	d.post(`/api/v1/runs/${RUN}`);
	for (let i = 0; i < 3; i++) d.post(`/api/v1/runs/${RUN}/events/${EVENT(i)}`, { quiet: true });
	d.post(reading(), { body: { runId: RUN } });
	d.post(`/api/v1/runs/${RUN}/events/${EVENT(4)}`, { quiet: true });
	await minutes(1);
	expect(d.sent.map((w) => w.seq)).toEqual([1, 1, 2, 3, 4, 5, 6]);
});

it('a write that is taken back while another is on its way does not go', async () => {
	const d = device(async (w) => {
		await new Promise((done) => setTimeout(done, 1000));
		return has(w);
	});
	d.post(reading());
	const second = d.post(reading(OTHER));
	await vi.advanceTimersByTimeAsync(500);
	d.kept.delete(second);
	await minutes(1);
	expect(d.sent.length).toBe(1);
});
