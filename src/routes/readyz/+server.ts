import { whyNotReady } from '$lib/server/db/ready';
import type { RequestHandler } from './$types';

/** Whether requests can be served: the database answers and has room. A balancer asks before it sends anybody here. */
export const GET: RequestHandler = async () => {
	const why = await whyNotReady();
	return why === undefined ? new Response('ready\n') : new Response(`${why}\n`, { status: 503 });
};
