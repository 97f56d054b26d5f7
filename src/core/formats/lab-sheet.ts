import { bad, cut, good, nth, type Outcome } from '../base';
import { convert, slopeAt } from '../quantities';
import { parameterOf, type ParameterId } from '../catalogue';
import { inShort, isNothing, numberIn } from './sheet-cells';
import { ASKED, meaningOf, parameterIn, plain, unitIn } from './sheet-columns';
import { daysItCouldBe, guessOrder, parseDate, parseTime } from './sheet-dates';
import { instantBy, instants } from './sheet';

/** One answer of a lab, in the parameter's own unit. */
export interface LabResult {
	parameter: ParameterId;
	/** What it found, or below what it can see. */
	raw: { shown: number } | { below: number };
	/** Half of a 95 % interval, where the sheet says one. */
	half: number | null;
}

/** A lab's answer to one sample. */
export interface LabSheet {
	lab: string;
	sample: string | null;
	/** When the water was drawn, UTC, ms. */
	drawn: number;
	results: LabResult[];
	/** What could not be taken, by the sheet's row from 0, and why. */
	refused: { row: number; reason: string }[];
}

/** What a lab's sheet says of itself, above or below its results, or in columns. */
const ABOUT = {
	lab: ['lab', 'laboratory', 'labor', 'laboratoire'],
	sample: ['sample', 'sample id', 'probe', 'id'],
	drawn: ['drawn', 'sampled', 'date', 'sample date', 'datum', 'taken']
} as const;
const ERROR = /^(±|\+\/-|error|uncertainty|expanded uncertainty|u95|unsicherheit|incertitude)/;
/** Results of one sheet; more is no sheet of one sample. */
const MOST_RESULTS = 200;
/** Of a day without an hour: when people draw water. */
const USUAL_HOUR = 19;

/**
 * A lab's sheet of one sample: lines that say which lab, sample and day ("lab,NAME"), then a table with columns for parameter,
 * result, unit and, where it has one, the half-width of a 95 % interval (`±`, in the result's unit or in %). What cannot be taken is
 * named with its reason; the rest stands. Problems: no lab, no day, no table, a day ahead.
 *
 * @example readLabSheet([['lab', 'Quay'], ['drawn', '2026-05-01'], ['parameter', 'result', 'unit', '±'], ['calcium', '421', 'mg/L', '6']], { timeZone: 'Europe/Dublin', now: Date.parse('2026-05-12') }).value.results[0] // → { parameter: 'calcium', raw: { shown: 421 }, half: 6 }
 */
export function readLabSheet(
	rows: string[][],
	{ timeZone, now }: { timeZone: string; now: number }
): Outcome<LabSheet> {
	const header = rows.findIndex((row) => {
		const kinds = row.map((cell) => meaningOf(cell));
		return kinds.some((m) => m.kind === 'parameter') && kinds.some((m) => m.kind === 'value' && !m.parameter);
	});
	if (header < 0)
		return bad(
			'/text',
			'has no table with a column for the parameter and one for the result: is it a lab’s sheet?'
		);
	const heads = nth(rows, header);
	const columnOf = (is: (head: string) => boolean) => heads.findIndex((head) => is(head));
	const columns = {
		parameter: columnOf((h) => meaningOf(h).kind === 'parameter'),
		result: columnOf((h) => meaningOf(h).kind === 'value'),
		unit: columnOf((h) => meaningOf(h).kind === 'unit'),
		error: columnOf((h) => ERROR.test(h.trim().toLowerCase()))
	};
	const said = (of: keyof typeof ABOUT): string => {
		const names: readonly string[] = ABOUT[of];
		const line = rows.find((row, i) => i !== header && names.includes(plain(row[0] ?? '')) && row[1]?.trim());
		const column = columnOf((h) => names.includes(plain(h)));
		return (line?.[1] ?? (column < 0 ? '' : (rows[header + 1]?.[column] ?? ''))).trim();
	};
	const lab = cut(said('lab'), 60);
	if (!lab) return bad('/text', 'does not say which lab it is from: a line “lab,NAME” above the table does');
	const drawn = drawnIn(said('drawn'), timeZone, now);
	if (typeof drawn === 'string') return bad('/text', drawn);
	if (drawn > now) return bad('/text', 'says the water was drawn on a day that lies ahead');
	const body = rows.slice(header + 1);
	const inResults = body.map((row) => row[columns.result] ?? '').join(' ');
	const decimal = /\d,\d/.test(inResults) && !/\d\.\d/.test(inResults) ? ',' : '.';
	const sheet: LabSheet = { lab, sample: cut(said('sample'), 60) || null, drawn, results: [], refused: [] };
	for (const [i, row] of body.entries()) {
		const cell = (column: number) => (column < 0 ? '' : (row[column] ?? '').trim());
		if (isNothing(cell(columns.result)) || sheet.results.length >= MOST_RESULTS) continue;
		const result = resultIn(
			cell(columns.parameter),
			cell(columns.result),
			cell(columns.unit),
			cell(columns.error),
			decimal
		);
		if (typeof result === 'string') sheet.refused.push({ row: header + 1 + i, reason: result });
		else if (sheet.results.some((r) => r.parameter === result.parameter))
			sheet.refused.push({ row: header + 1 + i, reason: `${result.parameter} stands there twice` });
		else sheet.results.push(result);
	}
	return good(sheet);
}

/** When the water was drawn, or why nobody knows. A day that could be two is the one that does not lie ahead, if only one does not. */
function drawnIn(text: string, timeZone: string, now: number): number | string {
	const instant = instants(timeZone, USUAL_HOUR);
	const offset = Date.parse(text);
	if (/[tT ]\d\d:\d\d.*(Z|[+-]\d\d:?\d\d)$/.test(text) && Number.isFinite(offset)) return offset;
	const [day = '', hour = ''] = text.split(/[ T,]+(?=\d{1,2}:\d\d)/);
	const time = hour ? parseTime(hour) : undefined;
	const days = daysItCouldBe(day, guessOrder([day]).order).flatMap((written) => {
		const date = parseDate(written, 'ymd');
		return date ? [{ written, at: instantBy(now, instant, time ? { ...date, time } : date) }] : [];
	});
	const past = days.filter(({ at }) => at <= now);
	const found = guessOrder([day]).could === undefined ? days.slice(0, 1) : past.length ? past : days;
	if (found.length > 1)
		return `says the water was drawn on ${inShort(text)}, which could be ${found.map((d) => d.written).join(' or ')}: write the one that is meant in its place`;
	return (
		found[0]?.at ??
		'does not say when the water was drawn: a line “drawn,2026-05-06 19:30” above the table does'
	);
}

/** A line of the table in the parameter's own unit, or why not. */
function resultIn(
	name: string,
	value: string,
	unitWords: string,
	error: string,
	decimal: '.' | ','
): LabResult | string {
	const named = parameterIn(name);
	if (!named) return `“${inShort(name)}” is no parameter known here`;
	const { parameter } = named;
	const own = parameterOf(parameter)?.unit ?? '';
	const unit = unitWords ? (unitIn(parameter, unitWords) ?? undefined) : (named.unit ?? own);
	if (unit === undefined || unit === ASKED)
		return `“${inShort(unitWords || name)}” says no unit of ${parameter} that is understood`;
	const number = numberIn(value, decimal, parameter, unit);
	if (typeof number === 'string') return number;
	if (number.kind !== 'exact' && number.kind !== 'below') return `“${inShort(value)}” is not one number`;
	const there = convert({ quantity: parameter, value: number.value, from: unit, to: own });
	if (!there.ok) return `${inShort(value)} ${unit} ${nth(there.problems, 0).message}`;
	const inOwn = Number(there.value.value.toPrecision(9));
	if (number.kind === 'below') return { parameter, raw: { below: inOwn }, half: null };
	const width = /^[\s±+/-]*([\d.,]+)\s*(%?)/.exec(error);
	const half = width ? Number(nth(width, 1).replace(',', '.')) : NaN;
	const share =
		width?.[2] === '%'
			? (half / 100) * Math.abs(inOwn)
			: half * Math.abs(slopeAt(parameter, number.value, unit, own));
	return { parameter, raw: { shown: inOwn }, half: share > 0 ? Number(share.toPrecision(6)) : null };
}
