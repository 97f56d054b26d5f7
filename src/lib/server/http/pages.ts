import { LRUCache } from 'lru-cache';
import { randomBytes } from 'node:crypto';
import type { RequestEvent } from '@sveltejs/kit';
import { standing, type Asker } from '../identity/asker';

/**
 * Pages, and the data that goes for them while somebody walks from room to room, as they were made: kept for as long as nothing that
 * they show has been written, and for no longer than the minute, since pages say how long ago things were. Two things in a page
 * are filled in anew each time it is sent: the nonce of its scripts, and the server's time.
 */

/** Rooms whose pages follow from what is kept of the asker's tanks and from the clock alone; none shows a secret. */
const ROOMS = new Set([
	'/tanks',
	...['rack', 'readings', 'trends', 'bench', 'bench/one', 'shelf'].map((room) => `/s/[system=uuid]/${room}`)
]);
/** What every stranger is shown alike. */
const FOR_STRANGERS = new Set(['/signin']);
const MINUTE = 60_000;
/** What another process has changed for strangers, such as whether they may sign up, is seen after so long, ms. */
const STRANGERS = 5000;
/** So much is kept, bytes. */
const MOST = 16_000_000;
/** Longer answers are not worth their place, bytes. */
const LONGEST = 2_000_000;

interface Made {
	/** One more than `holes`, which stand between them. */
	parts: Buffer[];
	holes: Hole[];
	headers: [name: string, value: string][];
	nonce: string | undefined;
}
type Hole = 'nonce' | 'time';

const kept = new LRUCache<string, Made>({
	maxSize: MOST,
	sizeCalculation: ({ parts }, key) => key.length + parts.reduce((sum, p) => sum + p.length + 100, 1000)
});
/** Goes up when somebody has sent something here that may change what strangers see. */
let written = 0;
export const strangersMaySeeOther = (): void => void written++;

/**
 * The answer to a request for a page, as it was made for the same person before, or by `make`. `at` is the server's time for this
 * request, as the page says it. The asker's stamps are those of before the page is made: what is written meanwhile is of another key.
 */
export async function page(
	event: RequestEvent,
	asker: Asker | undefined,
	at: Date,
	make: () => Promise<Response>
): Promise<Response> {
	const key = await keyOf(event, asker, at);
	if (key === undefined) return make();
	const known = kept.get(key);
	if (known) return sent(known, at);
	const response = await make();
	const type = response.headers.get('content-type') ?? '';
	if (
		response.status !== 200 ||
		!response.body ||
		!/^(text\/html|text\/sveltekit-data|application\/json)\b/.test(type)
	)
		return response;
	// A page may come in parts, the last of them when its models are done: nobody waits for them here.
	const [now, later] = response.body.tee();
	void new Response(later)
		.arrayBuffer()
		.then((body) => {
			if (event.locals.failed || body.byteLength > LONGEST) return;
			kept.set(key, taken(Buffer.from(body), response.headers, at));
		})
		// Who asked has gone away meanwhile.
		.catch(() => undefined);
	return new Response(now, { status: 200, headers: response.headers });
}

async function keyOf(event: RequestEvent, asker: Asker | undefined, at: Date): Promise<string | undefined> {
	const { request, route, locals } = event;
	if (request.method !== 'GET' || route.id === null) return undefined;
	// The address as it was asked for: data of a page has its own.
	const what = [request.url, locals.theme, locals.habits.language ?? ''];
	if (!asker)
		// With whatever they write behind it they could push out what others have.
		return FOR_STRANGERS.has(route.id) && event.url.search === ''
			? [...what, written, Math.floor(performance.now() / STRANGERS)].join(' ')
			: undefined;
	if (!ROOMS.has(route.id) || !locals.person) return undefined;
	const { tanks, stamp } = await standing(asker);
	const stamps = [...tanks.values()].map((t) => `${t.stamp}${t.role[0]}`);
	return [...what, asker.userId, Math.floor(at.getTime() / MINUTE), stamp, ...stamps].join(' ');
}

/** A page in parts, with holes where its nonce and its time stood. */
function taken(body: Buffer, headers: Headers, at: Date): Made {
	const nonce = /'nonce-([^']+)'/.exec(headers.get('content-security-policy') ?? '')?.[1];
	const marks: [Hole, Buffer][] = [['time', Buffer.from(at.toISOString())]];
	if (nonce) marks.push(['nonce', Buffer.from(nonce)]);
	const found = marks
		.flatMap(([hole, mark]) => placesOf(body, mark).map((from) => ({ hole, from, to: from + mark.length })))
		.sort((a, b) => a.from - b.from);
	const ends = [0, ...found.map((f) => f.to)];
	const begins = [...found.map((f) => f.from), body.length];
	return {
		parts: ends.map((from, i) => body.subarray(from, begins[i])),
		holes: found.map((f) => f.hole),
		nonce,
		// Its fingerprint is of the page with another nonce.
		headers: [...headers].filter(([name]) => name !== 'etag' && name !== 'content-length')
	};
}

function placesOf(body: Buffer, mark: Buffer): number[] {
	const places: number[] = [];
	for (let at = body.indexOf(mark); at >= 0; at = body.indexOf(mark, at + mark.length)) places.push(at);
	return places;
}

function sent({ parts, holes, headers, nonce }: Made, at: Date): Response {
	const fresh = randomBytes(16).toString('base64');
	const fill = { nonce: Buffer.from(fresh), time: Buffer.from(at.toISOString()) };
	const body = Buffer.concat(
		parts.flatMap((part, i) => {
			const hole = holes[i];
			return hole ? [part, fill[hole]] : [part];
		})
	);
	// For whoever looks why a page came so soon.
	const answer = new Response(body, { status: 200, headers: { 'server-timing': 'kept' } });
	for (const [name, value] of headers)
		answer.headers.append(
			name,
			nonce && name === 'content-security-policy' ? value.replace(nonce, fresh) : value
		);
	return answer;
}
