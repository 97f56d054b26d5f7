import { INSTRUMENTS, instrumentOf, type Kind, type Method, type RawReading } from '../instruments';
import { SHIPPED_METHODS, isKnownValue } from '../methods';
import { bad, badAll, good, type Outcome } from '../base';
import { LONGEST_ENTRY, convert, formatUnit, parseEntry, type Entered } from '../quantities';
import { PARAMETERS, nameInSentence, parameterOf, type ParameterId } from '../catalogue';
import { isPlausible } from './amount';
import { PARAMETER_WORDS, UNIT_WORDS } from './words';

/** What a typed line means: which method it was read by, and what was seen. */
export interface Quick {
	parameter: ParameterId;
	methodId: string;
	reading: RawReading;
	sample?: string;
	/** °C of the water, where it was given with a salinity. */
	temperatureC?: number;
	/** When it was read, by the clock on the tank's wall; now where nothing is said. */
	when?: When;
}

/** So many days ago or on a day (2026-05-03), at an hour (20:15). */
export interface When {
	day: { ago: number } | { on: string };
	hour?: string;
}

/**
 * One line as people write it: "alk left 0,46", "ca 17 drops", "no3 3-6", "po4 38 ppb P", "nh4 <0.2", "sg 1.0255 25C".
 * `methods` are the keeper's, the one used last for each parameter first; `unitOf` what they count in, for a value without a unit. Problems: no parameter, no number, words that
 * are not understood, a unit that could mean two, an instrument the keeper does not have.
 *
 * @example parseQuick('alk left 0,46', SHIPPED_METHODS).value.reading // → { reads: 'syringe', left: 0.46 }
 */
export function parseQuick(
	text: string,
	methods: Method[],
	unitOf: (parameter: ParameterId) => string = (parameter) => parameterOf(parameter)!.unit
): Outcome<Quick> {
	const typed = text.trim();
	if (typed.length > LONGEST_ENTRY)
		return bad('', `must be at most ${LONGEST_ENTRY} characters: one measurement a line`);
	const line = typed
		.toLowerCase()
		.replaceAll('µ', 'u')
		.replaceAll('μ', 'u')
		.replace(/[₂₃₄]/g, (c) => ({ '₂': '2', '₃': '3', '₄': '4' })[c]!);
	const start = /^([a-z]+[0-9]?)\s*[:=]?\s*(.*)$/.exec(line);
	const parameter = start && PARAMETER_WORDS[start[1]!];
	if (!start || !parameter)
		return bad('', `begin with what was measured: ${PARAMETERS.map((p) => p.words[0]).join(', ')}`);
	const { said, when } = withoutDay(start[2]!);
	const { rest, sample, refills } = asides(said);
	const { body, temperatureC } = withoutTemperature(rest, parameter);
	const isOnInstrument = /\b(?:left|used|remaining|gone|ml|drops?)\b/.test(body);
	const entry = parseEntry(
		body.replace(/(\d)([a-z°‰])/g, '$1 $2').replace(/\s+/g, ' '),
		isOnInstrument ? undefined : (value) => isPlausible(parameter, value, unitOf(parameter))
	);
	if (!entry.ok) return entry;
	const { number, before, after } = entry.value;
	if ('value' in number && number.value < 0) return bad('', 'cannot be below 0');
	const words = [before, after].filter(Boolean).join(' ').replace(/\s+/g, ' ').trim();
	const mine = methods.filter((m) => m.parameter === parameter);

	const found = interpreted({
		parameter,
		mine,
		number,
		words,
		refills,
		alias: start[1]!,
		unit: unitOf(parameter)
	});
	if (!found.ok) return found;
	const chosen = mine.find((m) => m.id === found.value.methodId);
	if (sample && !chosen?.samples?.some((s) => s.id === sample))
		return bad('', `${chosen?.name ?? 'this method'} has no ${sample} sample`);
	return good({
		parameter,
		...found.value,
		...(sample ? { sample } : {}),
		...(temperatureC === undefined ? {} : { temperatureC }),
		...(when ? { when } : {})
	});
}

const HOUR = String.raw`(?:\s+(?:at\s+)?((?:[01]?\d|2[0-3]):[0-5]\d))`;
const DAYS: [RegExp, (found: string[]) => When['day']][] = [
	[new RegExp(String.raw`\byesterday\b${HOUR}?`), () => ({ ago: 1 })],
	[new RegExp(String.raw`\b(\d{1,3})\s+days?\s+ago\b${HOUR}?`), ([, ago]) => ({ ago: Number(ago) })],
	[new RegExp(String.raw`\b(?:on\s+)?(\d{4}-\d{2}-\d{2})\b${HOUR}?`), ([, on]) => ({ on: on! })],
	[new RegExp(String.raw`(?:\btoday\b)?${HOUR}`), () => ({ ago: 0 })]
];
/** "yesterday", "3 days ago 20:15", "2026-05-03", "at 7:30": when it was read. */
function withoutDay(text: string): { said: string; when?: When } {
	for (const [pattern, day] of DAYS) {
		const found = pattern.exec(` ${text}`);
		if (!found) continue;
		const hour = found.at(-1)?.includes(':') ? found.at(-1) : undefined;
		const said = ` ${text}`.replace(found[0], ' ').replace(/\s+/g, ' ').trim();
		return { said, when: { day: day([...found]), ...(hour ? { hour } : {}) } };
	}
	return { said: text };
}

/** Words that stand anywhere: the sample's size, full syringes before this one. */
function asides(text: string): { rest: string; sample?: string; refills: number } {
	let rest = text;
	let sample: string | undefined;
	let refills = 0;
	rest = rest.replace(/\b(half|full)\s+sample\b|\b(half)\b/, (_all, a?: string, b?: string) => {
		sample = a ?? b;
		return ' ';
	});
	rest = rest.replace(
		/\+?\s*\b(\d{1,2})\s*(?:refills?|full(?:\s+syringes?)?)\b|\+\s*(\d{1,2})\b/,
		(_all, a?: string, b?: string) => {
			refills = Number(a ?? b);
			return ' ';
		}
	);
	return { rest: rest.trim(), ...(sample ? { sample } : {}), refills };
}

/** "1.0255 25C": the water's temperature beside a salinity. */
function withoutTemperature(text: string, parameter: ParameterId): { body: string; temperatureC?: number } {
	const found =
		parameter === 'salinity' && /^(.*?\S)\s+(?:at\s+|@\s*)?(\d+(?:[.,]\d+)?)\s*°?([cf])$/.exec(text);
	if (!found) return { body: text };
	const degrees = Number(found[2]!.replace(',', '.'));
	return { body: found[1]!, temperatureC: found[3] === 'f' ? (degrees - 32) / 1.8 : degrees };
}

interface Line {
	parameter: ParameterId;
	mine: Method[];
	number: Entered;
	words: string;
	refills: number;
	alias: string;
	/** What the keeper counts it in. */
	unit: string;
}
type Found = Pick<Quick, 'methodId' | 'reading'>;

function interpreted(line: Line): Outcome<Found> {
	const { words, mine, parameter, refills } = line;
	const named =
		words !== '' || refills > 0
			? (Object.keys(INSTRUMENTS) as Kind[]).find((reads) => quickOf({ reads }).words?.test(words))
			: undefined;
	if (named) {
		const method = mine.find((m) => m.reads === named);
		return method
			? onInstrument(method, line)
			: bad(
					'',
					`you have no ${quickOf({ reads: named }).lacking} method for ${nameInSentence(parameter)}; make one on the shelf`
				);
	}
	if (words === '') return bare(line);
	const unit = UNIT_WORDS[parameter][words];
	if (unit === null)
		return bad('', `“${words}” could mean the element or the compound: write for example ppb P or ppb PO4`);
	if (unit === undefined) return bad('', `“${words}” is not understood after ${nameInSentence(parameter)}`);
	return inUnit(line, unit);
}

const quickOf = (method: Pick<Method, 'reads'>) => instrumentOf(method).quick;

function onInstrument(method: Method, { number, words, refills }: Line): Outcome<Found> {
	const reading = quickOf(method).read(method, number, { words, refills });
	return reading.ok ? good({ methodId: method.id, reading: reading.value }) : reading;
}

/** A number alone: what the keeper's first instrument for it shows, where it can show that; else a value. */
function bare(line: Line): Outcome<Found> {
	const { mine, number, parameter, alias } = line;
	const first = mine.find((m) => !isKnownValue(m));
	const ends = number.kind === 'between' ? [number.low, number.high] : [number.value];
	const alone = (m: Method) => (quickOf(m).shows(m, number) ? quickOf(m).alone : undefined);
	if (first && alone(first) === 'first') return onInstrument(first, line);
	const card = mine.find((m) => alone(m) === 'always');
	if (card) return onInstrument(card, line);
	const gravity = parameter === 'salinity' && ends.every((x) => x >= 1 && x < 1.1);
	const unit = gravity ? 'SG 25/25' : defaultUnit(line);
	// No water has such a level: it is what another of the keeper's instruments shows, or something is missing.
	if (
		number.kind !== 'below' &&
		number.kind !== 'above' &&
		!ends.every((x) => isPlausible(parameter, x, unit))
	) {
		const shows = mine.find((m) => alone(m) === 'first') ?? mine.find((m) => alone(m) === 'else');
		if (shows) return onInstrument(shows, line);
		// What is read off by itself says its own bounds.
		if (SHIPPED_METHODS.some((m) => m.parameter === parameter && instrumentOf(m).titration))
			return bad(
				'',
				`${ends.join(' to ')} ${formatUnit(unit)} is no ${nameInSentence(parameter)} that water has: write what it was read on (left, used, drops), or the unit`
			);
	}
	if (alias === 'sg' && !gravity)
		return bad('', 'a specific gravity lies between 1.000 and 1.035; write for example sg 1.0255, or sal 35');
	const conductivity = alias === 'cond' || alias === 'conductivity';
	return inUnit(line, conductivity ? 'mS/cm 25C' : unit);
}

const defaultUnit = ({ alias, unit }: Line): string =>
	alias === 'nh3' ? 'mg/L NH3' : alias === 'phosphorus' ? 'mg/L PO4-P' : unit;

/** A value in a unit: on a display of that unit, a card of it, or as a value from elsewhere. */
function inUnit(line: Line, unit: string): Outcome<Found> {
	const { mine, number, parameter } = line;
	const shows = mine.filter(
		(m) => !isKnownValue(m) && quickOf(m).unit?.(m) === unit && quickOf(m).shows(m, number)
	);
	// What says its number by itself goes before what is matched.
	const shown = shows.find((m) => quickOf(m).alone === 'never') ?? shows[0];
	if (shown) return onInstrument(shown, line);
	const ends = number.kind === 'between' ? [number.low, number.high] : [number.value];
	const known = SHIPPED_METHODS.find((m) => m.id === `known-${parameter}`)!;
	const converted = ends.map((value) => convert({ quantity: parameter, value, from: unit, to: known.unit }));
	const problems = converted.flatMap((c) => (c.ok ? [] : c.problems));
	if (problems.length)
		return badAll(problems.map((p) => ({ path: '', message: `${formatUnit(unit)} ${p.message}` })));
	const [low, high] = converted.map((c) => (c.ok ? Number(c.value.value.toPrecision(12)) : NaN));
	return onInstrument(known, {
		...line,
		number:
			number.kind === 'between' ? { kind: 'between', low: low!, high: high! } : { ...number, value: low! }
	});
}
