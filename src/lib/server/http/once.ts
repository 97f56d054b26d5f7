import { v5 as uuidV5 } from 'uuid';
import type { Outcome } from '../../../core/base';
import { answer, problemDetails } from './answer';
import type { Asker } from '../identity/asker';

/** As long as a key may be. */
const LONGEST_KEY = 200;

/**
 * Saves something under an id that follows from the request's Idempotency-Key, person and tank: the same request again finds
 * what it made the first time.
 */
export async function saveOnce(
	request: Request,
	asker: Asker,
	systemId: string,
	save: (id: string) => Promise<Outcome<unknown>>
): Promise<Response> {
	const key = request.headers.get('idempotency-key')?.trim() ?? '';
	if (!key || key.length > LONGEST_KEY)
		return problemDetails(
			428,
			`Send a header Idempotency-Key of 1 to ${LONGEST_KEY} characters, new for each thing to save: a repeat then changes nothing.`
		);
	return answer(await save(uuidV5(`${asker.userId} ${key}`, systemId)));
}
