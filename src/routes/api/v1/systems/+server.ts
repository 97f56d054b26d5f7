import { json } from '@sveltejs/kit';
import { systemsOf } from '$lib/server/stores/systems';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = async ({ locals }) => json({ systems: await systemsOf(locals.asker) });
