import { valueIn } from '$core/quantities';
import { parameterOf, type KnownParameter } from '$core/catalogue';
import type { Habits } from '$lib/api/habits';

/**
 * What the person who looks counts in, and their language. Who that is differs from request to request on the server, and never in a
 * page: so it is asked for where a number is written, as libraries of words in several languages do it.
 */
let source: () => Habits = () => ({});
/** Says once where habits come from: the request on the server, the page's data in a browser. */
export const habitsFrom = (where: () => Habits): void => void (source = where);
export const habits = (): Habits => source();

/** Where nobody said: day before month, a decimal point. */
const OTHERWISE = 'en-GB';
/** The language tag in which numbers and dates are written. */
export const language = (): string => habits().language ?? OTHERWISE;

/** A tag that Intl knows how to write in; others would throw. */
export function isLanguage(tag: string): boolean {
	try {
		return Intl.NumberFormat.supportedLocalesOf(tag).length > 0;
	} catch {
		return false;
	}
}

/** The first language of a browser's list that Intl knows. */
export const languageAsked = (header: string | null): string | undefined =>
	(header ?? '')
		.split(',')
		.map((entry) => entry.split(';')[0]!.trim())
		.find((tag) => /^[A-Za-z]{2,8}(-[A-Za-z0-9]{1,8})*$/.test(tag) && isLanguage(tag));

/** The unit this person counts a parameter in. */
export const unitFor = (parameter: string): string =>
	(habits().units as Record<string, string | undefined> | undefined)?.[parameter] ??
	parameterOf(parameter)?.unit ??
	'';

const made = new Map<string, KnownParameter>();
/** A parameter as this person counts it: its unit, and its ranges in that unit. */
export function parameterFor(id: string): KnownParameter | undefined {
	const own = parameterOf(id);
	const unit = unitFor(id);
	if (!own || unit === own.unit) return own;
	const known = made.get(`${id} ${unit}`);
	if (known) return known;
	const range = ([low, high]: readonly [number, number]): [number, number] => [
		valueIn(id, low, own.unit, unit),
		valueIn(id, high, own.unit, unit)
	];
	const mine = { ...own, unit, plausible: range(own.plausible), shown: range(own.shown) };
	made.set(`${id} ${unit}`, mine);
	return mine;
}

const formats = new Map<string, Intl.NumberFormat>();
/** A number as this person writes it; decimals below nothing round to tens and hundreds. No grouping: "1,284" is two things. */
export function numeral(value: number, decimals: number): string {
	const places = Math.max(0, decimals);
	const key = `${language()} ${places}`;
	const format =
		formats.get(key) ??
		new Intl.NumberFormat(language(), {
			minimumFractionDigits: places,
			maximumFractionDigits: places,
			useGrouping: false,
			numberingSystem: 'latn'
		});
	formats.set(key, format);
	const step = 10 ** -decimals;
	const rounded = decimals < 0 ? Math.round(value / step) * step : value;
	// As decimal digits, so that 1.0235 is the same whether it was typed or came back through another unit.
	const digits = rounded.toPrecision(12) as `${number}`;
	// Marks of direction that some languages put before a sign are no part of a number.
	const text = format.format(digits).replace(/[\u200e\u200f\u061c]/g, '');
	// A true minus sign, and none before nothing.
	return /[1-9]/.test(text) ? text.replace('-', '−') : text.replace(/^[-−]/, '');
}

/** A number at so many significant figures at most, as this person writes it: "8.1", "143", "0,046". */
export function figures(value: number, most = 3): string {
	const short = Number(value.toPrecision(most));
	const decimals = (String(Math.abs(short)).split('.')[1] ?? '').length;
	return /e/.test(String(short)) ? String(short) : numeral(short, decimals);
}

/** A number as it stands in a field to be changed: the same, with a plain minus sign; three decimals get a fourth, or they could be thousands. */
export const typedAs = (value: number, most = 6): string =>
	figures(value, most)
		.replace('−', '-')
		.replace(/^-?[1-9]\d{0,2}[.,]\d{3}$/, '$&0');

/** The first day of a week, 1 Monday to 7 Sunday: as chosen, or as the language has it. */
export function weekStart(): number {
	const chosen = habits().weekStart;
	if (chosen) return chosen;
	const locale = new Intl.Locale(language()) as Intl.Locale & {
		weekInfo?: { firstDay: number };
		getWeekInfo?: () => { firstDay: number };
	};
	return (locale.getWeekInfo?.() ?? locale.weekInfo)?.firstDay ?? 1;
}

/** What people of a language usually count in where that is not what Tevrik keeps: only of the United States is it plain. */
export function usualUnits(tag: string): NonNullable<Habits['units']> {
	const region = isLanguage(tag) ? new Intl.Locale(tag).maximize().region : undefined;
	return region === 'US' ? { temperature: 'F', volume: 'US gal', length: 'in', salinity: 'SG 25/25' } : {};
}

/** What stands between units and tenths in this person's numbers; other signs than these two are no sheet's. */
export const decimalSign = (): '.' | ',' => (numeral(0.5, 1).includes(',') ? ',' : '.');
