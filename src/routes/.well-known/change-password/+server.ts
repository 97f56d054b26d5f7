import { redirect } from '@sveltejs/kit';
import type { RequestHandler } from './$types';

/** Where a password is changed, for those who keep them (W3C, a well-known URL for changing passwords). */
export const GET: RequestHandler = () => redirect(302, '/account');
