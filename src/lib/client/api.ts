import { MINUTE, bad, badAll, good, type Outcome, type Problem } from '../../core/base';
import { named } from './person';

/** An answer later than this is none, ms. */
const ANSWER_WITHIN = 20_000;
/** The same where a file goes along. */
const FILE_WITHIN = 15 * MINUTE;
const AWAY = 'The server does not answer. Nothing you typed is lost; try again in a moment.';

type Address = `/api/v1/${string}` | '/signin/passkey' | '/account/passkeys' | '/account/passkeys/offer';
/** What is sent: plain data, or a file of JSON as it is. */
type Body = object | Blob;

/**
 * One request to Tevrik's own API: what it answers, or what to put right, in the server's words and with the place in what was
 * sent. A network that is away, or a stranger's page in its place, is a problem like any other.
 */
export async function call<T = unknown>(
	method: 'GET' | 'PUT' | 'POST' | 'PATCH' | 'DELETE',
	address: Address,
	body?: Body
): Promise<Outcome<T>> {
	let response: Response;
	try {
		response = await fetch(address, {
			method,
			headers: {
				accept: 'application/json',
				...named(),
				...(body === undefined ? {} : { 'content-type': 'application/json' })
			},
			...(body === undefined ? {} : { body: body instanceof Blob ? body : JSON.stringify(body) }),
			signal: AbortSignal.timeout(body instanceof Blob ? FILE_WITHIN : ANSWER_WITHIN)
		});
	} catch {
		return bad('', AWAY);
	}
	return outcomeOf<T>(response);
}

/** An answer of the API as an outcome; of one without a body the value is undefined. */
async function outcomeOf<T>(response: Response): Promise<Outcome<T>> {
	const said = await response.json().catch(() => undefined);
	if (response.ok && (said !== undefined || response.status === 204)) return good(said as T);
	// Ours is JSON: a hotel's sign-in page answers 200 too.
	return badAll(response.ok ? [{ path: '', message: AWAY }] : problemsIn(said));
}

/** What an answer that refuses says is wrong: each place by itself, or the sentence about all of it. */
export function problemsIn(said: unknown): Problem[] {
	const { problems, detail, message } = (said ?? {}) as {
		problems?: Problem[];
		detail?: string;
		message?: string;
	};
	if (problems?.length) return problems;
	return [{ path: '', message: detail ?? message ?? AWAY }];
}

/** The same problems with places below `part` named from there: `/profile/name` below `/profile` is `/name`. */
export const below = (part: string, problems: Problem[]): Problem[] =>
	problems.map((p) => (p.path.startsWith(part) ? { ...p, path: p.path.slice(part.length) } : p));
