import { DAY, nth } from '../base';

/** Dates as people write them in sheets. */

export type DateOrder = 'ymd' | 'dmy' | 'mdy';

/** What a cell says of a moment, by the clock on the wall unless it carries an offset of its own (minutes east of UTC). */
export interface WrittenMoment {
	year: number;
	month: number;
	day: number;
	time?: { hour: number; minute: number; second: number };
	offset?: number;
}

const TIME = String.raw`(?<hour>\d{1,2})(?:[:.h](?<minute>\d{2}))?(?:[:.](?<second>\d{2})(?:[.,]\d+)?)?\s*(?<half>[ap]\.?m\.?)?`;
const AFTER = String.raw`(?:(?:\s*[t,]\s*|\s+)(?:at\s+)?${TIME}\s*(?<zone>z|[+-]\d{2}:?\d{2})?)?`;
const LONG_YEAR_FIRST = new RegExp(String.raw`^(?<a>\d{4})[-./](?<b>\d{1,2})[-./](?<c>\d{1,2})${AFTER}$`);
const THREE_NUMBERS = new RegExp(
	String.raw`^(?:[a-zäöüéû]{2,10}\.?,?\s+)?(?<a>\d{1,2})[-./ ]\s?(?<b>\d{1,2})[-./ ]\s?(?<c>\d{4}|\d{2})${AFTER}$`
);
const COMPACT = /^(?<a>\d{4})(?<b>\d{2})(?<c>\d{2})$/;
const DAY_NAME_YEAR = new RegExp(
	String.raw`^(?:[a-zäöüéû]{2,10}\.?,?\s+)?(?<day>\d{1,2})(?:st|nd|rd|th|\.)?[-\s]\s*(?<name>[a-zäéû]{3,10})\.?,?[-\s]\s*(?<year>\d{4}|\d{2})${AFTER}$`
);
const NAME_DAY_YEAR = new RegExp(
	String.raw`^(?:[a-zäöüéû]{2,10}\.?,?\s+)?(?<name>[a-zäéû]{3,10})\.?\s+(?<day>\d{1,2})(?:st|nd|rd|th)?,?\s+(?<year>\d{4})${AFTER}$`
);
const TIME_ALONE = new RegExp(`^${TIME}$`);
/** Days since 30 December 1899, as spreadsheets keep them: from 1954 to 2119. */
const SERIAL = /^(?<days>[2-7]\d{4})(?:[.,](?<part>\d+))?$/;
const SERIAL_ZERO = Date.UTC(1899, 11, 30);

/** By their first three letters, in the languages of the sheets we know. */
const MONTHS: Record<string, number> = {
	jan: 1,
	feb: 2,
	fev: 2,
	fév: 2,
	mar: 3,
	mär: 3,
	mae: 3,
	maa: 3,
	apr: 4,
	avr: 4,
	abr: 4,
	may: 5,
	mai: 5,
	mei: 5,
	jun: 6,
	juin: 6,
	jul: 7,
	juil: 7,
	aug: 8,
	aoû: 8,
	aou: 8,
	sep: 9,
	set: 9,
	oct: 10,
	okt: 10,
	out: 10,
	nov: 11,
	dec: 12,
	dez: 12,
	déc: 12,
	dic: 12
};

/** No date with its hour is written longer than this, characters: what is longer is not looked at. */
const LONGEST_DATE = 60;

/** The moment a cell names; undefined where it names none, or a day that no calendar has. */
export function parseDate(cell: string, order: DateOrder): WrittenMoment | undefined {
	const text = cell.trim().toLowerCase();
	if (text.length > LONGEST_DATE) return undefined;
	const serial = SERIAL.exec(text)?.groups;
	if (serial) return fromSerial(Number(`${serial['days']}.${serial['part'] ?? '0'}`));
	const long = (LONG_YEAR_FIRST.exec(text) ?? COMPACT.exec(text))?.groups;
	if (long) return moment(Number(long['a']), Number(long['b']), Number(long['c']), long);
	const three = THREE_NUMBERS.exec(text)?.groups;
	if (three) {
		const [a, b, c] = [three['a']!, three['b']!, three['c']!];
		if (order === 'ymd' && c.length === 2) return moment(century(a), Number(b), Number(c), three);
		const [day, month] = order === 'mdy' ? [b, a] : [a, b];
		return moment(century(c), Number(month), Number(day), three);
	}
	const named = (DAY_NAME_YEAR.exec(text) ?? NAME_DAY_YEAR.exec(text))?.groups;
	if (!named) return undefined;
	const name = named['name']!;
	const month = MONTHS[name.slice(0, 4)] ?? MONTHS[name.slice(0, 3)];
	return month === undefined
		? undefined
		: moment(century(named['year']!), month, Number(named['day']), named);
}

/** An hour of the day in a cell of its own. */
export function parseTime(cell: string): WrittenMoment['time'] | undefined {
	const text = cell.trim().toLowerCase();
	if (text.length > LONGEST_DATE) return undefined;
	const share = /^0[.,]\d+$/.exec(text);
	if (share) {
		// A spreadsheet keeps noon as 0.5.
		const seconds = Math.round(Number(text.replace(',', '.')) * 86_400);
		return { hour: Math.floor(seconds / 3600), minute: Math.floor(seconds / 60) % 60, second: seconds % 60 };
	}
	const found = TIME_ALONE.exec(text)?.groups;
	return found && (found['minute'] || found['half']) ? timeOf(found) : undefined;
}

/** Two digits from 69 on are of the last century (POSIX, strptime). */
const LAST_CENTURY = 69;
const century = (year: string): number =>
	year.length > 2 ? Number(year) : Number(year) + (Number(year) < LAST_CENTURY ? 2000 : 1900);

function timeOf(groups: Record<string, string | undefined>): WrittenMoment['time'] | undefined {
	const written = Number(groups['hour']);
	const half = groups['half']?.[0];
	if (half && (written < 1 || written > 12)) return undefined;
	const hour = half ? (written % 12) + (half === 'p' ? 12 : 0) : written;
	const minute = Number(groups['minute'] ?? 0);
	const second = Number(groups['second'] ?? 0);
	return hour < 24 && minute < 60 && second < 60 ? { hour, minute, second } : undefined;
}

function moment(
	year: number,
	month: number,
	day: number,
	groups: Record<string, string | undefined>
): WrittenMoment | undefined {
	const real = new Date(Date.UTC(year, month - 1, day));
	if (real.getUTCMonth() !== month - 1 || real.getUTCDate() !== day) return undefined;
	if (groups['hour'] === undefined) return { year, month, day };
	const time = timeOf(groups);
	if (!time) return undefined;
	const zone = groups['zone'];
	if (zone === undefined) return { year, month, day, time };
	const digits = zone.replace(':', '');
	const offset =
		zone === 'z'
			? 0
			: (digits[0] === '-' ? -1 : 1) * (60 * Number(digits.slice(1, 3)) + Number(digits.slice(3, 5)));
	return { year, month, day, time, offset };
}

function fromSerial(days: number): WrittenMoment {
	// Spreadsheets keep times as shares of a day, off by a hair.
	const at = new Date(SERIAL_ZERO + Math.round((days * DAY) / 1000) * 1000);
	const date = { year: at.getUTCFullYear(), month: at.getUTCMonth() + 1, day: at.getUTCDate() };
	return Number.isInteger(days)
		? date
		: {
				...date,
				time: { hour: at.getUTCHours(), minute: at.getUTCMinutes(), second: at.getUTCSeconds() }
			};
}

/** Each way three numbers can be a date. */
const ORDERS: DateOrder[] = ['dmy', 'mdy', 'ymd'];
/** Years that leap are no record of tests beside days that follow each other: a march so many times shorter decides, from so many dates on. */
const FAR_SHORTER = 100;
const ENOUGH = 4;

/**
 * In which order a column's dates have day, month and year: by numbers that only one order allows; German points; else by which order gives
 * the shortest march through time. `could` is a date that could be another one, where numbers leave it open: however even the march, tests on
 * the first of every month and tests on the first days of one look alike.
 *
 * @example guessOrder(['1/2/2026', '1/3/2026']) // → { order: 'mdy', could: '1/2/2026' }
 */
export function guessOrder(cells: string[]): { order: DateOrder; could?: string } {
	const open: string[] = [];
	let points = 0;
	for (const cell of cells) {
		const text = cell.trim().toLowerCase();
		if (text.length > LONGEST_DATE || !THREE_NUMBERS.test(text)) continue;
		open.push(cell);
		if (/^\d{1,2}\.\s?\d{1,2}\./.test(text)) points++;
	}
	if (!open.length) return { order: 'ymd' };
	const tried = ORDERS.map((order) => {
		const days = open.flatMap((cell) => {
			const m = parseDate(cell, order);
			return m ? [Date.UTC(m.year, m.month - 1, m.day) / DAY] : [];
		});
		const march = days.slice(1).reduce((sum, day, i) => sum + Math.abs(day - nth(days, i)), 0);
		return { order, days, march };
	});
	const most = Math.max(...tried.map((t) => t.days.length));
	// What fewer of the cells allow is out; and after points comes the month.
	const left = tried.filter(
		(t) => t.days.length === most && !(t.order === 'mdy' && points > open.length / 2)
	);
	const alike = (a: number[], b: number[]) => a.length === b.length && a.every((day, i) => day === b[i]);
	const [best, ...others] = left
		.sort((a, b) => a.march - b.march)
		.filter((t, i, all) => all.findIndex((o) => alike(o.days, t.days)) === i);
	if (!best) return { order: 'dmy' };
	const rival = others.find(
		(o) =>
			open.length < ENOUGH ||
			(best.order === 'ymd') === (o.order === 'ymd') ||
			o.march < FAR_SHORTER * Math.max(1, best.march)
	);
	if (!rival) return { order: best.order };
	const differs = open.find((cell) => dayOf(cell, best.order) !== dayOf(cell, rival.order));
	return differs === undefined ? { order: best.order } : { order: best.order, could: differs.trim() };
}

const dayOf = (cell: string, order: DateOrder): string | undefined => {
	const m = parseDate(cell, order);
	return m && `${m.year}-${String(m.month).padStart(2, '0')}-${String(m.day).padStart(2, '0')}`;
};

/** The days a date could be, each once: in the order it is read in first. */
export const daysItCouldBe = (cell: string, order: DateOrder): string[] => [
	...new Set([order, ...ORDERS].flatMap((o) => dayOf(cell, o) ?? []))
];

/** A date that could be another one, and how it is read. */
export function datesInWords(cell: string, order: DateOrder): string {
	const [read, ...others] = daysItCouldBe(cell, order);
	return `“${cell}” is read as ${read}, ${orderInWords(order)}; it could be ${others.join(' or ')}. Choose the order of the dates if that is meant.`;
}

/** An order as a sentence says it. */
export const orderInWords = (order: DateOrder): string =>
	({ dmy: 'day first', mdy: 'month first', ymd: 'year first' })[order];
