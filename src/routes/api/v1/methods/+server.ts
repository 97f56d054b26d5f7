import { json } from '@sveltejs/kit';
import { methodsFor } from '$lib/server/stores/methods';
import type { RequestHandler } from './$types';

/** The newest version of every method the asker may use. */
export const GET: RequestHandler = async ({ locals }) => json({ methods: await methodsFor(locals.asker) });
