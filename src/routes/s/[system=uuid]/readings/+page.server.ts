import { BookQuery, addressAfter, asked } from '$lib/api/queries';
import { parsedQuery } from '$lib/server/http/answer';
import { bookPage } from '$lib/server/answers/book';
import { kitsFor } from '$lib/server/stores/methods';
import { measuredIn } from '$lib/server/stores/readings';
import { supplementsOf } from '$lib/server/stores/supplements';
import { sourcesOf } from '$lib/server/stores/systems';
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
	const [page, sources, measured, methods, shelf] = await Promise.all([
		bookPage(asker, params.system, filter),
		sourcesOf(asker, params.system),
		measuredIn(asker, params.system),
		kitsFor(asker),
		supplementsOf(asker)
	]);
	const filtered = new URLSearchParams(Object.entries(filter).filter(([, value]) => value !== undefined));
	const next = addressAfter(`/api/v1/systems/${params.system}/lines`, filtered, page.next);
	return {
		page: { lines: page.lines, next },
		filter,
		days,
		sources,
		measured,
		// Whoever corrects asks for what a method is; here only what it is called.
		methods: methods.map(({ id, profile: { name, parameter } }) => ({ id, name, parameter })),
		bottles: shelf.map(({ id, profile }) => ({ id, profile })),
		problem: query.ok ? null : query.problems.map((p) => `${p.path.slice(1)} ${p.message}`).join('; ')
	};
};
