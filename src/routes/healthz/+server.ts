import type { RequestHandler } from './$types';

/** The process lives and its loop turns. */
export const GET: RequestHandler = () => new Response('alive\n');
