import Type from 'typebox';
import type { BookFilter, BookPage, BookPlace } from './book';
import { exact, id, moment } from './parts';

/** Words of an address are text: a number is checked by how it is written. */
const limit = Type.String({ pattern: '^([1-9]|[1-9][0-9]|[1-4][0-9][0-9]|500)$' });

/** What may be asked of a list of readings or of the book, in an address. `before` and `beforeId` come from `next`. */
export const BookQuery = Type.Object(
	{
		parameter: Type.Optional(Type.String({ minLength: 1, maxLength: 40 })),
		source: Type.Optional(id),
		method: Type.Optional(id),
		from: Type.Optional(moment),
		to: Type.Optional(moment),
		show: Type.Optional(
			Type.Unsafe<'counted' | 'voided' | 'all' | 'unusual'>({
				type: 'string',
				enum: ['counted', 'voided', 'all', 'unusual']
			})
		),
		lines: Type.Optional(
			Type.Unsafe<'readings' | 'events'>({ type: 'string', enum: ['readings', 'events'] })
		),
		/** Words that stand anywhere in a line: of its kit, water, reason, note, hand; each of them must. */
		words: Type.Optional(Type.String({ minLength: 1, maxLength: 100 })),
		before: Type.Optional(moment),
		beforeId: Type.Optional(id),
		limit: Type.Optional(limit)
	},
	exact
);
export type BookQuery = Type.Static<typeof BookQuery>;

/** A query as a filter, the place to go on from, and how many. */
export function asked({ before, beforeId, limit: most, ...filter }: BookQuery): {
	filter: BookFilter;
	before: BookPlace | undefined;
	limit: number | undefined;
} {
	return {
		filter,
		before: before === undefined ? undefined : { at: before, id: beforeId ?? '' },
		limit: most === undefined ? undefined : Number(most)
	};
}

/** The address of the page after this one: what was asked stays as it was asked; none behind the last. */
export function addressAfter(path: string, asked: URLSearchParams, next: BookPlace | null): BookPage['next'] {
	if (!next) return null;
	const query = new URLSearchParams(asked);
	query.set('before', next.at);
	query.set('beforeId', next.id);
	return `${path as `/api/v1/${string}`}?${query.toString()}`;
}
