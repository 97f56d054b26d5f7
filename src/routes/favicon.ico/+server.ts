import { redirect } from '@sveltejs/kit';
import type { RequestHandler } from './$types';

/** Where browsers look for an icon unasked. */
export const GET: RequestHandler = () => redirect(308, '/apple-touch-icon.png');
