import { decimalsOf, formatUnit } from '$core/quantities';
import type { DueReason, Placing } from '$core/targets';
import type { Change } from '$core/trend';
import type { Heading } from '$lib/api/rack';
import type { TrendInShort } from '$lib/api/trends';
import * as say from '$messages/rack';
import { decimalSign, figures, numeral, unitFor } from './habits';
import { dayInWords, daysAgo } from './when';
import { LIST, chanceInWords, moveInWords } from './words/judgements';
import { seenInWords, type RawReading } from '$core/instruments';
import { type Measured } from '$core/methods';
import { COVERAGE_95 } from '$core/statistics';

/** A result in two parts: the number, and its error in a lighter weight. Bounds and intervals stay what they are. */
export function shownValue(
	result: Pick<Measured, 'value' | 'standardUncertainty' | 'qualifier' | 'interval'>
): {
	value: string;
	error: string;
} {
	const [low, high] = result.interval;
	if (result.qualifier === '<') return { value: `< ${plain(high)}`, error: '' };
	if (result.qualifier === '>') return { value: `> ${plain(low)}`, error: '' };
	if (result.qualifier === 'between') {
		const decimals = decimalsOfEnds(low ?? 0, high ?? 0);
		return {
			value: `${numeral(low ?? 0, decimals)} to ${numeral(high ?? 0, decimals)}`,
			error: ''
		};
	}
	return shownLevel(result.value ?? 0, COVERAGE_95 * (result.standardUncertainty ?? 0));
}

/** Ends with so many figures at most stand on a card as they are: 25 to 50 is no 30 to 50. */
const ON_A_CARD = 3;
const isWritten = (x: number): boolean => Math.abs(Number(x.toPrecision(ON_A_CARD)) - x) < 1e-9 * Math.abs(x);
/** What was worked out goes to its first uncertain digit, which is half of what lies between. */
function decimalsOfEnds(low: number, high: number): number {
	const usual = decimalsOf((high - low) / 2);
	if (!isWritten(low) || !isWritten(high)) return usual;
	const digits = (x: number) => (String(Number(x.toPrecision(ON_A_CARD))).split('.')[1] ?? '').length;
	return Math.max(usual, digits(low), digits(high));
}

const plain = (x: number | null) => figures(x ?? 0);

/** A value and half of its 95 % interval, to the first uncertain digit: "8.1" and "± 0.3". */
export function shownLevel(value: number, halfWidth: number): { value: string; error: string } {
	const decimals = decimalsOf(halfWidth);
	return { value: numeral(value, decimals), error: `± ${numeral(halfWidth, decimals)}` };
}

/** "8.1 ± 0.3 dKH". */
export function inWords(result: Parameters<typeof shownValue>[0], unit: string): string {
	const { value, error } = shownValue(result);
	return [value, error, formatUnit(unit)].filter(Boolean).join(' ');
}

/** Words with numbers in them, from core, with this person's decimal sign. */
export const withDecimals = (text: string): string => text.replaceAll(/(\d)\.(\d)/g, `$1${decimalSign()}$2`);
/** What stood on the instrument: "0.41 left". */
export const seenAs = (raw: RawReading): string => withDecimals(seenInWords(raw));
/** The same with the sample, where that was not the full one: "0.41 left, half sample". */
export const seenIn = ({ raw, sampleSize }: { raw: RawReading; sampleSize: string | null }): string =>
	sampleSize && sampleSize !== 'full' ? `${seenAs(raw)}, ${sampleSize} sample` : seenAs(raw);

/** A state is a shape, a colour and a word. */
export const STATES: Record<Placing['state'], { shape: string; word: () => string; tone: string }> = {
	inside: { shape: '●', word: say.inRange, tone: 'moss' },
	edge: { shape: '◐', word: say.nearLimit, tone: 'saffron' },
	unknown: { shape: '○', word: say.uncertain, tone: 'saffron' },
	below: { shape: '▼', word: say.low, tone: 'brick' },
	above: { shape: '▲', word: say.high, tone: 'brick' }
};

/** How much a test differs from the one before; undefined where it does not. One digit past what either value is sure of says nothing. */
function differenceOf(change: Change, halfWidth: number): string | undefined {
	const decimals = Math.min(decimalsOf(COVERAGE_95 * change.standardUncertainty), decimalsOf(halfWidth) + 1);
	const size = Math.abs(change.difference);
	return change.noiseAlone > 0.5 || size < 0.5 * 10 ** -decimals ? undefined : numeral(size, decimals);
}

/** "0.4 lower, more than the errors", for where there is little room. */
export function changeInShort(of: Change, halfWidth: number): string {
	const change = differenceOf(of, halfWidth);
	if (change === undefined) return say.unchanged();
	const lower = of.real ? say.lowerMore : say.lowerWithin;
	const higher = of.real ? say.higherMore : say.higherWithin;
	return (of.difference < 0 ? lower : higher)({ change });
}

/** "−0.4 from the last test, more than the errors." */
export function changeInWords(of: Change, halfWidth: number): string {
	const size = differenceOf(of, halfWidth);
	if (size === undefined) return say.noDifference();
	const change = `${of.difference < 0 ? '−' : '+'}${size}`;
	return of.real
		? say.clearDifference({ change })
		: say.noClearDifference({ change, chance: chanceInWords(of.noiseAlone) });
}

/** What a forecast takes for granted: "with your 0.4 dKH each day and your change of 10 % every 7 days". Empty where nothing. */
export function assumesInWords({ assumes, unit }: Pick<TrendInShort, 'assumes' | 'unit'>): string {
	const said = assumes.map(({ kind, everyDays, change = 0, fraction = 0 }) => {
		const days = Math.round(everyDays);
		const often = days <= 1 ? say.eachDay() : say.everyDays({ days: String(days) });
		return kind === 'dose'
			? say.yourDose({ change: `${figures(change, 2)} ${formatUnit(unit)}`, often })
			: say.yourChange({ share: `${Math.round(100 * fraction)} %`, often });
	});
	return said.length ? say.assumes({ habits: LIST.format(said) }) : '';
}

/** Of a trend in this person's unit: "falling 0.1 dKH a day, may leave its range on Friday", as far as it can be said. */
export function headingInWords(parameter: string, trend: Heading, now: string, timeZone: string): string {
	const { value, standardDeviation } = trend.netPerDay;
	const decimals = Math.max(decimalsOf(COVERAGE_95 * standardDeviation), decimalsOf(Math.abs(value)));
	const change = [numeral(Math.abs(value), Math.min(decimals, 4)), formatUnit(unitFor(parameter))]
		.filter(Boolean)
		.join(' ');
	if (trend.verdict === 'steady')
		return trend.moved ? moveInWords(parameter, trend.moved.from, trend.moved.to) : say.steady();
	if (trend.verdict === 'unsure') return say.unclear();
	const falls = trend.verdict === 'falling';
	const leaves = trend.leavesBand?.median;
	const heads = falls === (trend.leavesBand?.edge === 'lower');
	if (!leaves || !heads || Date.parse(leaves) <= Date.parse(now))
		return (falls ? say.falling : say.rising)({ change });
	return (falls ? say.fallingOut : say.risingOut)({ change, when: dayInWords(leaves, now, timeZone) });
}

/** Why a test is due. */
export function dueInWords(why: DueReason, now: string, timeZone: string): string {
	if (why.kind === 'routine')
		return say.dueRoutine({ ago: daysAgo(why.last, now, timeZone), days: String(why.everyDays) });
	return DUE[why.kind]();
}
/** When a test is due, and why. */
export const dueOnInWords = (due: { at: string; why: DueReason }, now: string, timeZone: string): string =>
	say.dueOn({ when: dayInWords(due.at, now, timeZone), why: dueInWords(due.why, now, timeZone) });
const DUE: Record<Exclude<DueReason['kind'], 'routine'>, () => string> = {
	never: say.dueNever,
	odd: say.dueOdd,
	moved: say.dueMoved,
	out: say.dueOut,
	unsure: say.dueUnsure,
	changed: say.dueChanged,
	died: say.dueDied,
	'new-pack': say.duePack
};
