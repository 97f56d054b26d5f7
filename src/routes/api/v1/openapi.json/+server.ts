import { json } from '@sveltejs/kit';
import { openApi } from '$lib/api/openapi';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ url }) => json(openApi(url.origin));
