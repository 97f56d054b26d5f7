import type { Reading } from './readings';
import type { TrendInShort } from './trends';

/** What is said of where a level is heading. */
export type Heading = Pick<TrendInShort, 'netPerDay' | 'verdict' | 'leavesBand' | 'moved'>;

/** One parameter as its tube in the rack needs it. */
export interface TubeData {
	last: Pick<Reading, 'qualifier' | 'value' | 'standardUncertainty' | 'interval' | 'unit'>;
	/** Where the chart of its kit is typed; nothing where the chart is the keeper's. */
	notYours?: string;
	/** What is taken off what its kit reads, in words. */
	corrected?: string;
	/** When that was, in words: "today", "5 days ago". */
	ago: string;
	/** Where it came from: moment in ms and value, oldest first. */
	trail: [at: number, value: number][];
	trend?: {
		/** Where it is heading, in words. */
		heading: string;
		now: { value: number; standardDeviation: number };
		/** The level day by day from now, with its standard deviation. */
		ahead: [mean: number, sd: number][];
	};
}
