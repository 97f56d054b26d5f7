import type { Outcome } from '../base';
import type { Entered } from '../quantities';
import type { Say } from './check-parts';
import type { Observation } from './observation';
import type { CommonMethod } from './profile-parts';
import type { CommonReading, Technique } from './reading-parts';
import type { Chance, KitBias } from './simulate';
import type { Misreading, Misread } from './misreadings';

/**
 * All that core knows of one kind of instrument. `M` is a method that is read by it, `R` what is seen on it. Whoever asks holds a
 * reading of the method's own kind (`misfit`, `tagged`).
 */
export interface Instrument<M extends CommonMethod = CommonMethod, R extends CommonReading = CommonReading> {
	/** What it is, within a sentence: "a syringe". */
	name: string;
	/** Fields of its raw readings; one of them is given. */
	fields: readonly string[];
	/** Whether what it shows needs the chart of its leaflet. */
	needsChart: boolean;
	/** Where titrant is used until the colour turns: errors of sample and titrant act on what is used. */
	titration?: Titration<M>;
	/** What its maker promises, where a method says that: half-widths, as a fraction and in the shown unit. */
	promised?(method: M): { relative?: number; absolute?: number };

	/** What a schema cannot say about a method. */
	check(method: M, say: Say): void;
	/** What was seen, on its own axis, with its errors. Problems carry paths into the request. */
	observe(method: M, reading: R): Outcome<Observation>;
	/** From its own axis to the method's unit, for the first sample. */
	toValue(method: M, reading: R, seen: Observation): Outcome<Observation>;
	/** Whether what was read counts the dilution that is said beside it already. */
	countsDilution?(method: M, reading: R): boolean;
	/** The reading with what practice has shown of the hand that read it; left out where no hand takes part. */
	withTechnique?(reading: R, hand: Technique | undefined): R;
	/** What was seen, in a few words. */
	inWords(reading: R): string;
	/** How much of what changes from test to test is the step of its scale, as a shade is. */
	rounding: 'none' | 'some' | 'all';
	/** Whether it reads a colour that deepens with time. */
	develops: boolean;

	/** What else a keeper may have seen or done, of what this instrument allows. */
	misreadings(method: M, reading: R): Misread<M, R>[];
	/** The readings that someone who makes this misreading would give in place of the true one. */
	misread(method: M, reading: R, slip: Misreading, random: () => number): R[];
	/** What a careful keeper sees on it in water of a true value, in the method's unit. */
	simulate(method: M, truth: number, bias: KitBias, chance: Chance): R;
	/** What one graduation, drop, patch or last digit is worth at a value, in the method's unit. */
	stepAt(method: M, value: number): number | null;
	/** A titration that is expected to turn where it turned last: where to slow down. */
	slowDown?(method: M, last: R, share: number): Foresight | undefined;

	/** What it is in a quick line. */
	quick: QuickWords<M, R>;
}

interface Titration<M> {
	/** What is used of the titrant for water that has nothing of the parameter: none, or all where it is titrated back. */
	usedByNothing(method: M): number;
	/** Whether its chart means what is read after the last drop. */
	endsAfterDrop(method: M): boolean;
}

/** How far a titration may go quickly, mL of the first filling, in the kit's convention. */
export interface Foresight {
	readAs: 'left' | 'used';
	/** Where the plunger stands when it is time to slow down. */
	slowAt: number;
	/** Whole syringes given quickly before that filling. */
	fullFirst: number;
}

interface QuickWords<M, R> {
	/** Words behind a number that mean this instrument: "12 drops". */
	words?: RegExp;
	/** What somebody has none of, where a line means this instrument. */
	lacking: string;
	/**
	 * When a number alone is what it shows, where it can show that: `always`; `first`, where it is the keeper's first instrument for the
	 * parameter, or where no water has such a level; `else`, only there; `never`.
	 */
	alone: 'always' | 'first' | 'else' | 'never';
	/** The unit its numbers are in, where somebody reads a value off it. */
	unit?(method: M): string;
	/** Whether that can stand on it. */
	shows(method: M, number: Entered): boolean;
	/** What a number on it means. Problems: it cannot stand there. */
	read(method: M, number: Entered, said: { words: string; refills: number }): Outcome<R>;
}
