import { BookQuery, asked } from '$lib/api/queries';
import { parsedQuery } from '$lib/server/answer';
import { bookPage } from '$lib/server/book-store';
import { methodsFor } from '$lib/server/method-store';
import { measuredIn } from '$lib/server/reading-store';
import { sourcesOf } from '$lib/server/system-store';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params, url, locals: { asker } }) => {
	// A form sends its empty fields along; an address from elsewhere may hold anything.
	const given = new URL(url);
	for (const [name, value] of [...given.searchParams]) if (!value) given.searchParams.delete(name);
	const of = given.searchParams.get('of');
	if (of !== null) {
		given.searchParams.delete('of');
		given.searchParams.set('parameter', of);
	}
	const day = (name: 'from' | 'to') => given.searchParams.get(name);
	const days = { from: day('from'), to: day('to') };
	const query = parsedQuery(given, BookQuery);
	const { filter } = asked(query.ok ? query.value : {});
	const [page, sources, measured, methods] = await Promise.all([
		bookPage(asker, params.system, filter),
		sourcesOf(asker, params.system),
		measuredIn(asker, params.system),
		methodsFor(asker)
	]);
	return {
		page,
		filter,
		days,
		sources,
		measured,
		methods,
		problem: query.ok ? null : query.problems.map((p) => `${p.path.slice(1)} ${p.message}`).join('; ')
	};
};
