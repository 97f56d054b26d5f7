import { json } from '@sveltejs/kit';
import { formatSchema } from '$lib/api/formats';
import type { RequestHandler } from './$types';

/** JSON Schema of the format `tevrik.book/1`. */
export const GET: RequestHandler = () => json(formatSchema('tevrik.book/1'));
