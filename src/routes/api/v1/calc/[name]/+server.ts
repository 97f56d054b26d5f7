import { error } from '@sveltejs/kit';
import { CALCULATIONS } from '$core/calculations';
import type { Problem } from '$core/base';
import { jsonTextOf, limitFields, problemDetails, refused } from '$lib/server/http/answer';
import { mayCalculate } from '$lib/server/identity/attempts';
import { TooLong, inThread } from '$lib/server/work/pool';
import type { RequestHandler } from './$types';

/** When to ask again for what took too long, s: the thread may only just have been starting. */
const TRY_AGAIN = 5;

/** A calculation by name, for whoever asks: in a thread of its own, so often a minute, and for so long. */
export const POST: RequestHandler = async ({ params, request, locals, getClientAddress }) => {
	if (!CALCULATIONS.some((c) => c.name === params.name))
		error(404, 'There is no calculation of that name; /api/v1 lists those there are.');
	const left = await mayCalculate(locals.known ? locals.asker.userId : getClientAddress(), locals.known);
	const text = await jsonTextOf(request);
	try {
		const { ok, json } = await inThread(locals.known ? 'keepers' : 'strangers', 'calculate', {
			name: params.name,
			text
		});
		return ok
			? new Response(json, { headers: { 'content-type': 'application/json', ...limitFields(left) } })
			: refused(JSON.parse(json) as Problem[]);
	} catch (failure) {
		if (!(failure instanceof TooLong)) throw failure;
		const said = problemDetails(
			503,
			'This waited or took longer than is given to one request here. Try again, ask for less, or use ./tevrik calc.'
		);
		said.headers.set('retry-after', String(TRY_AGAIN));
		return said;
	}
};
