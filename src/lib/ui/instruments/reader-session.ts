import type { Outcome } from '$core/base';
import { isQuantity } from '$core/quantities';
import type { Method, RawReading } from '$core/instruments';
import {
	expressedIn,
	read,
	readingCounts,
	readingRequest,
	type Measured,
	type Proved,
	type Question,
	type ReadingRequest,
	type Water
} from '$core/methods';
import { COVERAGE_95 } from '$core/statistics';
import { isPlausible } from '$core/quick';
import type { Parameter } from '$core/catalogue';
import { questions } from '$core/misreadings';
import { placeInBand, type Band, type Placing } from '$core/targets';
import { changeBetween } from '$core/trend';
import type { EarlierReading, SaveReading } from '$lib/api/readings';
import { changeInWords, inWords, shownValue } from '$lib/ui/wording';
import { farInWords, nowhereInWords } from '$lib/ui/words/judgements';
import { answeredYes } from './answered';
import { freshDraft, readingOf, type Draft } from './draft';
import { expectedFor } from './expected';
import { inOwnUnit, type OtherReading } from './other';

/** What is read, of which water, and what is known of it: the same while an instrument is in hand. */
export interface AtHand {
	method: Method;
	/** The method's id, which its versions share. */
	methodId: string;
	parameter: Parameter;
	band: Band | undefined;
	/** What kind of water it is. */
	water: Water;
	/** Of this parameter in this water, newest first. */
	earlier: EarlierReading[];
	/** What the water is estimated to have now, in the parameter's unit; nothing where it is not known. */
	level: { value: number; standardDeviation: number } | undefined;
	/** The newest of the parameter this method takes away. */
	other: OtherReading | undefined;
	/** What checks have taught of the kit. */
	proved: Proved | undefined;
	/** The server's time when the page was made, and the tank's zone. */
	now: string;
	timeZone: string;
}

/** Everything an instrument as it stands says. */
export interface ReaderView {
	request: (ReadingRequest & { reading: RawReading }) | undefined;
	/** In the method's unit. */
	result: Measured | undefined;
	/** In the parameter's own unit. */
	own: Measured | undefined;
	/** What is wrong with what was typed or cannot be. */
	problem: string | undefined;
	/** Whether it says something of the water: a chart of the keeper's own. Otherwise nothing is made of it. */
	counts: boolean;
	/** Was it misread? Without those the keeper has settled. */
	asked: Question[];
	place: Placing | undefined;
	/** Against the last of its kind, in words. */
	change: string | undefined;
	/** Far from what the water is estimated to have, in words. */
	far: string | undefined;
	/** No tank has such a level, whatever is known of this one. */
	nowhere: string | undefined;
	words: ReturnType<typeof shownValue> | undefined;
	/** For who does not see the page. */
	spoken: string;
}

const questionKey = (draft: Draft, slip: string) => `${draft.text}/${slip}`;

/**
 * Reads the instrument: `draft` is how it stands, `settled` which questions were answered with no. Pure: the same instrument says
 * the same.
 */
export function readerView(hand: AtHand, draft: Draft, settled: readonly string[]): ReaderView {
	const { parameter } = hand;
	const counts = readingCounts(hand.method, hand.method.takeAway && hand.other);
	const { request, outcome } = readBy(hand, draft);
	const result = request && outcome?.ok ? (outcome.value as Measured) : undefined;
	const own = result && expressedIn(result, parameter.id, parameter.unit);
	const asked = request && result && counts ? questions(request, result) : [];
	return {
		request,
		result,
		own,
		counts,
		problem: outcome && !outcome.ok ? outcome.problems[0]?.message : undefined,
		asked: asked.filter((q) => !settled.includes(questionKey(draft, q.slip))),
		...besideTank(hand, counts ? own : undefined),
		words: own && shownValue(own),
		spoken: own ? inWords(own, parameter.unit) : 'nothing read yet'
	};
}

/** What stands on the instrument as a reading, and what that comes to; nothing where nothing is set yet. */
function readBy(
	{ method, parameter, level, other, water, proved }: AtHand,
	draft: Draft
): { request?: ReaderView['request']; outcome?: Outcome<unknown> } {
	const seen = readingOf(method, draft);
	if (!seen?.ok) return seen ? { outcome: seen } : {};
	const request = readingRequest(method, seen.value, {
		sampleSize: method.samples && draft.sampleSize,
		other: other && inOwnUnit(other),
		expected: expectedFor(method, parameter.id, parameter.unit, level),
		water,
		proved
	});
	return { request, outcome: read(request) };
}

/** A result that counts beside the band, the last test and the level of the water; in the parameter's own unit. */
function besideTank(
	hand: AtHand,
	own: Measured | undefined
): Pick<ReaderView, 'place' | 'change' | 'far' | 'nowhere'> {
	const nothing = { place: undefined, change: undefined, far: undefined, nowhere: undefined };
	if (!own || own.value === null || !own.standardUncertainty) return nothing;
	const { parameter, band, level, now, timeZone } = hand;
	const known = { value: own.value, standardUncertainty: own.standardUncertainty };
	const last = hand.earlier.find((r) => r.ownChart);
	const impossible =
		hand.water === 'tank' &&
		isQuantity(parameter.id) &&
		!isPlausible(parameter.id, known.value, parameter.unit);
	return {
		place: band && placeInBand(known.value, known.standardUncertainty, band),
		change: changeSince(last, { ...known, repeatability: own.repeatability, methodId: hand.methodId }),
		far: farInWords(known, level, last, now, timeZone),
		nowhere: impossible ? nowhereInWords(parameter, known) : undefined
	};
}

/** Against the last of its kind, in words, where both say what they repeat within. */
function changeSince(
	last: EarlierReading | undefined,
	now: { value: number; standardUncertainty: number; repeatability?: number | null; methodId: string }
): string | undefined {
	if (last?.value == null || !last.standardUncertainty || !last.repeatability) return undefined;
	if (now.repeatability == null) return undefined;
	const { value, standardUncertainty, repeatability, methodId } = last;
	const change = changeBetween(
		{ value, standardUncertainty, repeatability, methodId },
		{ ...now, repeatability: now.repeatability }
	);
	return changeInWords(change, COVERAGE_95 * now.standardUncertainty);
}

/** The questions that are settled once one is answered with no. */
export const settledBy = (settled: readonly string[], draft: Draft, slip: string): string[] => [
	...settled,
	questionKey(draft, slip)
];

/** The draft if a question is answered with yes; undefined where only another method can put it right. */
export function draftIfYes(
	request: ReadingRequest,
	draft: Draft,
	slip: string,
	value: number
): Draft | undefined {
	const meant = answeredYes(request, slip, value, (r) => {
		const there = read(r);
		return there.ok ? there.value.value : null;
	});
	return meant && { ...draft, ...meant };
}

/** What is kept of a reading. */
export const takenFrom = (
	{ method, other }: Pick<AtHand, 'method' | 'other'>,
	draft: Draft,
	request: ReadingRequest
): Pick<SaveReading, 'reading' | 'sampleSize' | 'takenAwayId'> => ({
	...(method.samples ? { sampleSize: draft.sampleSize } : {}),
	reading: request.reading,
	...(method.takeAway && other ? { takenAwayId: other.id } : {})
});

/** The instrument for the next reading: how it is held and what sample it takes stay. */
export const nextDraft = (method: Method, { readAs, sampleSize, placed }: Draft): Draft => ({
	...freshDraft(method),
	readAs,
	sampleSize,
	placed
});
