import { isReady } from '$lib/server/db/ready';
import type { RequestHandler } from './$types';

/** Whether requests can be served: the database answers. A balancer asks before it sends anybody here. */
export const GET: RequestHandler = async () =>
	(await isReady())
		? new Response('ready\n')
		: new Response('the database does not answer\n', { status: 503 });
