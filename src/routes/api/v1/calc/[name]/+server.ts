import type { Problem } from '$core/problems';
import { jsonTextOf, problemDetails, refused } from '$lib/server/http/answer';
import { mayCalculate } from '$lib/server/identity/attempts';
import { TooLong, inThread } from '$lib/server/work/pool';
import type { RequestHandler } from './$types';

/** When to ask again for what took too long, s: the thread may only just have been starting. */
const TRY_AGAIN = 5;

/** A calculation by name, for whoever asks: in a thread of its own, so often a minute, and for so long. */
export const POST: RequestHandler = async ({ params, request, locals, getClientAddress }) => {
	const slow = await mayCalculate(locals.known ? locals.asker.userId : getClientAddress(), locals.known);
	if (slow) {
		const said = problemDetails(429, slow.sentence);
		said.headers.set('retry-after', String(slow.seconds));
		return said;
	}
	const text = await jsonTextOf(request);
	if (!text.ok) return refused(text.problems);
	try {
		const { ok, json } = await inThread(locals.known ? 'keepers' : 'strangers', 'calculate', {
			name: params.name,
			text: text.value
		});
		return ok
			? new Response(json, { headers: { 'content-type': 'application/json' } })
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
