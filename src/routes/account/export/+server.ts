import { accountFile } from '$lib/server/identity/accounts';
import { streamed } from '$lib/server/http/files';
import type { RequestHandler } from './$types';

/** All that is kept of whoever asks, as a file. */
export const GET: RequestHandler = ({ locals }) =>
	streamed(accountFile(locals.asker), 'application/json', 'tevrik-account.json');
