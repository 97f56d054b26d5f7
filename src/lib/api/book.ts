import type { RawReading } from '../../core/methods';
import type { WaterEvent } from '../../core/trend';
import type { Reading } from './readings';

/** A reading as a line of the book. */
export interface BookReading extends Reading {
	line: 'reading';
	sourceName: string;
	sourceKind: string;
	by: string;
	methodVersionId: string;
	takenAwayId: string | null;
	/** Why it is as it is: of a correction or a void. */
	reason: string | null;
	imported: boolean;
}

/** Something that was done to the tank, as a line of the book. */
export interface BookEvent {
	line: 'event';
	id: string;
	takenAt: string;
	event: WaterEvent;
	by: string;
	voided: boolean;
	reason: string | null;
}
export type BookLine = BookReading | BookEvent;

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
export interface BookRevision {
	revision: number;
	at: string;
	by: string;
	methodName: string;
	raw: RawReading;
	qualifier: Reading['qualifier'];
	value: number | null;
	standardUncertainty: number | null;
	interval: [number | null, number | null];
	unit: string;
	takenAt: string | null;
	voided: boolean;
	reason: string | null;
	calculation: string;
}
