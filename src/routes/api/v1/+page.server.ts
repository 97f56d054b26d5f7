import { OPERATIONS } from '$lib/api/operations';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = () => ({
	operations: OPERATIONS.map(
		({ method, path, group, summary, open, query, body, bodyType, once, answers, example }) => ({
			method: method.toUpperCase(),
			path: `/api/v1${path}`,
			group,
			summary,
			open: open ?? false,
			once: once ?? false,
			answers: answers ?? null,
			bodyType: bodyType ?? null,
			query: Object.keys(query?.properties ?? {}),
			fields: body && 'properties' in body ? Object.keys(body.properties as object) : [],
			example: example === undefined ? null : JSON.stringify(example, null, 2)
		})
	)
});
