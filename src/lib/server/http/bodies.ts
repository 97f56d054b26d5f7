/** What a request may bring, bytes: a run fits a hundred times over. */
export const LONGEST_BODY = 1_048_576;
/** Books and sheets of people who may write here, bytes. */
export const LONGEST_BOOK = 128 * 1_048_576;
export const LONGEST_SHEET = 32 * 1_048_576;

const FILES: [method: string, path: RegExp, longest: number][] = [
	['PUT', /^\/api\/v1\/systems\/[^/]+\/book$/, LONGEST_BOOK],
	['POST', /^\/api\/v1\/systems\/[^/]+\/imports$/, LONGEST_SHEET]
];

/** How long a request's body may be; strangers send no files. */
export const longestBody = (method: string, path: string, known: boolean): number =>
	(known && FILES.find(([m, p]) => m === method && p.test(path))?.[2]) || LONGEST_BODY;

/** Bodies that are on their way hold no more than this together, bytes: two books, and everybody's readings. */
export const MOST_UNDER_WAY = 300 * 1_048_576;
/** From one place so many may be on their way at once: a club behind one address, each device with what waited. */
export const MOST_OF_A_PLACE = 100;
/** Whoever sends nothing for so long has gone, ms. */
export const STALLED = 10_000;
/** Behind its first seconds a body comes by so many bytes a second at least: a tenth of the slowest mobile network (EDGE). */
export const LEAST_SPEED = 2_000;
const AT_FIRST = 10_000;

let underWay = 0;
const byPlace = new Map<string, number>();

/** What became of a body: all of it is at hand, or why not. */
export type Body =
	{ request: Request } | { refused: 'too long' | 'too slow' | 'too many' | 'not gzip' | 'another coding' };

/**
 * A request with its whole body at hand. Bytes are counted as they come, whatever the header says; what is on its way has a common
 * budget, a place has a share of it, and whoever stops sending is not waited for. `place`: as `placeOf` has it.
 */
export async function withBody(request: Request, longest: number, place: string): Promise<Body> {
	if (!request.body) return { request };
	if (Number(request.headers.get('content-length') ?? 0) > longest) return { refused: 'too long' };
	const coding = request.headers.get('content-encoding')?.trim().toLowerCase() ?? 'identity';
	if (coding !== 'identity' && coding !== 'gzip') return { refused: 'another coding' };
	const others = byPlace.get(place) ?? 0;
	if (others >= MOST_OF_A_PLACE || underWay >= MOST_UNDER_WAY) return { refused: 'too many' };
	byPlace.set(place, others + 1);
	const pieces: Uint8Array[] = [];
	let size = 0;
	const from = performance.now();
	// What was packed is counted as it unfolds: a little of it can become very much.
	const unfolding = coding === 'gzip' ? new DecompressionStream('gzip') : undefined;
	const reader = (unfolding ? request.body.pipeThrough(unfolding) : request.body).getReader();
	try {
		for (;;) {
			const next = await within(STALLED, reader.read());
			if (!next) return { refused: 'too slow' };
			if (next.done) break;
			size += next.value.byteLength;
			underWay += next.value.byteLength;
			pieces.push(next.value);
			if (size > longest) return { refused: 'too long' };
			if (underWay > MOST_UNDER_WAY) return { refused: 'too many' };
			const late = performance.now() - from - AT_FIRST;
			if (size < (LEAST_SPEED * late) / 1000) return { refused: 'too slow' };
		}
		const headers = new Headers(request.headers);
		if (unfolding) for (const name of ['content-encoding', 'content-length']) headers.delete(name);
		return { request: new Request(request, { headers, body: Buffer.concat(pieces) }) };
	} catch (failure) {
		if (unfolding && String((failure as { code?: unknown }).code).startsWith('Z_'))
			return { refused: 'not gzip' };
		throw failure;
	} finally {
		underWay -= size;
		const left = byPlace.get(place)! - 1;
		if (left) byPlace.set(place, left);
		else byPlace.delete(place);
	}
}

async function within<T>(ms: number, work: Promise<T>): Promise<T | undefined> {
	let timer: ReturnType<typeof setTimeout> | undefined;
	const late = new Promise<undefined>((done) => (timer = setTimeout(() => done(undefined), ms)));
	try {
		return await Promise.race([work, late]);
	} finally {
		clearTimeout(timer);
	}
}
