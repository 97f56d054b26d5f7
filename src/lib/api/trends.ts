import type { Columns } from './columns';
import type { Qualifier } from '../../core/methods';
import type { PathPoint, TrendResult } from '../../core/trend';

/** What is shown of one parameter where there is little room. */
export type TrendInShort = Omit<TrendResult, 'path' | 'offsets'>;

/** A reading as a picture needs it; the moment in ms, the method by its place in a list. */
export interface Point {
	at: number;
	qualifier: Qualifier;
	value: number | null;
	standardUncertainty: number | null;
	low: number | null;
	high: number | null;
	method: number;
	/** Read by a chart of the keeper's own; others are shown and say nothing. */
	own: boolean;
}

/** The level at a moment in ms, with its standard deviation. */
export interface LevelPoint {
	at: number;
	mean: number;
	sd: number;
}

/** With what was used and dosed then, a day. */
export type WayPoint = Omit<PathPoint, 'at'> & { at: number };

/** One line on the axis of all, and since when it is known where it is not of now; null: it was never worked out. */
export interface Way {
	points: Columns<LevelPoint>;
	asOf?: string | null;
}
