import Type from 'typebox';
import { Method, RawReading } from '../../core/instruments';
import { WaterEvent } from '../../core/trend';
import { exact, id, moment, orNull } from './parts';
import { Photo } from './photos';
import { Reading, Said } from './readings';

/** A reading as a line of the book. */
export const BookReading = Type.Object(
	{
		...Reading.properties,
		line: Type.Literal('reading'),
		sourceName: Type.String(),
		sourceKind: Type.String(),
		by: Type.String(),
		methodVersionId: id,
		takenAwayId: orNull(id),
		/** Why it is as it is: of a correction or a void. */
		reason: orNull(Type.String()),
		imported: Type.Boolean()
	},
	exact
);
export type BookReading = Type.Static<typeof BookReading>;

/** Something that was done to the tank, as a line of the book. */
export const BookEvent = Type.Object(
	{
		line: Type.Literal('event'),
		id,
		takenAt: moment,
		event: WaterEvent,
		by: Type.String(),
		voided: Type.Boolean(),
		reason: orNull(Type.String())
	},
	exact
);
export type BookEvent = Type.Static<typeof BookEvent>;
export const BookLine = Type.Union([BookReading, BookEvent]);
export type BookLine = Type.Static<typeof BookLine>;

/** What is asked of the book; everything left out is not asked for. */
export interface BookFilter {
	parameter?: string;
	source?: string;
	method?: string;
	/** Moments, ISO. */
	from?: string;
	to?: string;
	show?: 'counted' | 'voided' | 'all' | 'unusual';
	lines?: 'readings' | 'events';
	/** Each stands somewhere in the line: kit, water, reason, note, who. */
	words?: string;
}

/** Where a page of the book ends: the next begins below. */
export interface BookPlace {
	at: string;
	id: string;
}

/** `next` is the address of the lines below. */
export interface BookPage {
	lines: BookLine[];
	next: `/api/v1/${string}` | null;
}

/** One state a reading was in. */
export const BookRevision = Type.Object(
	{
		revision: Type.Integer(),
		at: moment,
		by: Type.String(),
		methodName: Type.String(),
		raw: RawReading,
		...Said,
		takenAt: orNull(moment),
		voided: Type.Boolean(),
		reason: orNull(Type.String()),
		calculation: Type.String()
	},
	exact
);
export type BookRevision = Type.Static<typeof BookRevision>;

/** A reading with the method it was made with, every state it was in and the pictures beside it. */
export const ReadingInFull = Type.Object(
	{ ...Reading.properties, method: Method, revisions: Type.Array(BookRevision), photos: Type.Array(Photo) },
	exact
);
