import { decimalsOf, formatUnit } from '$core/quantities';
import type { Placing } from '$core/targets';
import type { Change } from '$core/trend';
import type { Heading } from '$lib/api/rack';
import type { TrendInShort } from '$lib/api/trends';
import { decimalSign, figures, numeral } from './habits';
import { dayInWords } from './when';
import { moveInWords } from './words/judgements';
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
export const STATES: Record<Placing['state'], { shape: string; word: string; tone: string }> = {
	inside: { shape: '●', word: 'in band', tone: 'moss' },
	edge: { shape: '◐', word: 'near a limit', tone: 'saffron' },
	unknown: { shape: '○', word: 'not known well enough', tone: 'saffron' },
	below: { shape: '▼', word: 'below the band', tone: 'brick' },
	above: { shape: '▲', word: 'above the band', tone: 'brick' }
};

/** "0.4 lower, more than noise", for where there is little room. */
export function changeInShort(change: Change, halfWidth: number): string {
	const decimals = Math.min(decimalsOf(COVERAGE_95 * change.standardUncertainty), decimalsOf(halfWidth) + 1);
	const size = numeral(Math.abs(change.difference), decimals);
	if (change.noiseAlone > 0.5 || Number(size) === 0) return 'as before';
	return `${size} ${change.difference < 0 ? 'lower' : 'higher'}, ${change.real ? 'more than noise' : 'may be noise'}`;
}

/** "0.4 lower than the test before; noise alone would do that once in eight". */
export function changeInWords(change: Change, halfWidth: number): string {
	// One digit past what either value is sure of says nothing.
	const decimals = Math.min(decimalsOf(COVERAGE_95 * change.standardUncertainty), decimalsOf(halfWidth) + 1);
	const size = numeral(Math.abs(change.difference), decimals);
	if (change.noiseAlone > 0.5 || Number(size) === 0)
		return 'no different from the test before, within their noise';
	const direction = change.difference < 0 ? 'lower' : 'higher';
	const odds = Math.max(2, Math.round(1 / Math.max(change.noiseAlone, 1e-9)));
	const chance = odds > 200 ? 'noise alone hardly ever does that' : `noise alone does that once in ${odds}`;
	return `${size} ${direction} than the test before; ${chance}`;
}

/** What a forecast takes for granted: "with your 0.4 dKH each day and your change of 10 % every 7 days". Empty where nothing. */
export function assumesInWords({ assumes, unit }: Pick<TrendInShort, 'assumes' | 'unit'>): string {
	const often = (days: number) => (Math.round(days) <= 1 ? 'each day' : `every ${Math.round(days)} days`);
	const said = assumes.map(({ kind, everyDays, change = 0, fraction = 0 }) =>
		kind === 'dose'
			? `your ${figures(change, 2)} ${formatUnit(unit)} ${often(everyDays)}`
			: `your change of ${Math.round(100 * fraction)} % ${often(everyDays)}`
	);
	return said.length ? `with ${said.join(' and ')}` : '';
}

/** Of a trend in this person's unit: "falling 0.1 a day, leaves the band on Friday", as far as it can be said. */
export function headingInWords(parameter: string, trend: Heading, now: string, timeZone: string): string {
	const { value, standardDeviation } = trend.netPerDay;
	const decimals = Math.max(decimalsOf(COVERAGE_95 * standardDeviation), decimalsOf(Math.abs(value)));
	const rate = numeral(Math.abs(value), Math.min(decimals, 4));
	const heading =
		trend.verdict === 'steady'
			? 'steady'
			: trend.verdict === 'unsure'
				? 'not sure which way'
				: `${trend.verdict} ${rate} a day`;
	if (trend.moved && trend.verdict === 'steady')
		return moveInWords(parameter, trend.moved.from, trend.moved.to);
	const leaves = trend.leavesBand?.median;
	const heads = trend.verdict === (trend.leavesBand?.edge === 'lower' ? 'falling' : 'rising');
	return leaves && heads && Date.parse(leaves) > Date.parse(now)
		? `${heading}, leaves the band ${dayInWords(leaves, now, timeZone)}`
		: heading;
}
