import { json } from '@sveltejs/kit';
import { Supplement } from '$core/adjust';
import type { RequestHandler } from './$types';

/** JSON Schema of the shared format `tevrik.supplement/1`. */
export const GET: RequestHandler = () =>
	json({ $schema: 'http://json-schema.org/draft-07/schema#', $id: 'tevrik.supplement/1', ...Supplement });
