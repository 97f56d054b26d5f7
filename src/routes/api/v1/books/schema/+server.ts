import { json } from '@sveltejs/kit';
import { Book } from '$core/formats';
import type { RequestHandler } from './$types';

/** JSON Schema of the open format `tevrik.book/1`. */
export const GET: RequestHandler = () =>
	json({ $schema: 'http://json-schema.org/draft-07/schema#', $id: 'tevrik.book/1', ...Book });
