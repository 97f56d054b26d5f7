/** What a request may bring, bytes: an evening fits a hundred times over. */
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

/** A request with its whole body at hand, or nothing where that is too long: bytes are counted, whatever the header says. */
export async function withBody(request: Request, longest: number): Promise<Request | undefined> {
	if (!request.body) return request;
	if (Number(request.headers.get('content-length') ?? 0) > longest) return undefined;
	const pieces: Uint8Array[] = [];
	let size = 0;
	const reader = request.body.getReader();
	for (;;) {
		const { done, value } = await reader.read();
		if (done) break;
		size += value.byteLength;
		if (size > longest) return undefined;
		pieces.push(value);
	}
	return new Request(request, { body: Buffer.concat(pieces) });
}
