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
import { questions } from '$core/slips';
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
	const { method, parameter, band, level } = hand;
	const last = hand.earlier.find((r) => r.ownChart);
	const counts = readingCounts(method, method.takeAway && hand.other);
	const seen = readingOf(method, draft);
	const request = seen?.ok
		? readingRequest(method, seen.value, {
				sampleSize: method.samples && draft.sampleSize,
				other: hand.other && inOwnUnit(hand.other),
				expected: expectedFor(method, parameter.id, parameter.unit, level),
				water: hand.water,
				proved: hand.proved
			})
		: undefined;
	const outcome = request ? read(request) : seen?.ok === false ? seen : undefined;
	const result = request && outcome?.ok ? (outcome.value as Measured) : undefined;
	const own = result && expressedIn(result, parameter.id, parameter.unit);
	const value = own?.value ?? null;
	const u = own?.standardUncertainty ?? null;
	const known =
		counts && value !== null && u !== null && u > 0 ? { value, standardUncertainty: u } : undefined;
	const compared =
		known &&
		own?.repeatability != null &&
		last?.value != null &&
		last.standardUncertainty &&
		last.repeatability
			? changeBetween(
					{
						value: last.value,
						standardUncertainty: last.standardUncertainty,
						repeatability: last.repeatability,
						methodId: last.methodId
					},
					{ ...known, repeatability: own.repeatability, methodId: hand.methodId }
				)
			: undefined;
	return {
		request,
		result,
		own,
		counts,
		problem: outcome && !outcome.ok ? outcome.problems[0]?.message : undefined,
		asked:
			request && result && counts
				? questions(request, result).filter((q) => !settled.includes(questionKey(draft, q.slip)))
				: [],
		place: known && band ? placeInBand(known.value, known.standardUncertainty, band) : undefined,
		change: compared && known ? changeInWords(compared, COVERAGE_95 * known.standardUncertainty) : undefined,
		far: known && farInWords(known, level, last, hand.now, hand.timeZone),
		nowhere:
			known &&
			hand.water === 'tank' &&
			isQuantity(parameter.id) &&
			!isPlausible(parameter.id, known.value, parameter.unit)
				? nowhereInWords(parameter, known)
				: undefined,
		words: own && shownValue(own),
		spoken: own ? inWords(own, parameter.unit) : 'nothing read yet'
	};
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
