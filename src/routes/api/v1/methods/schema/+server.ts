import { json } from '@sveltejs/kit';
import { Method } from '$core/methods';
import type { RequestHandler } from './$types';

/** JSON Schema of the shared format `tevrik.method/1`. */
export const GET: RequestHandler = () =>
	json({ $schema: 'http://json-schema.org/draft-07/schema#', $id: 'tevrik.method/1', ...Method });
