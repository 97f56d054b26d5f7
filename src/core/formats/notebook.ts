import { DAY } from '../base';
import type { Method } from '../instruments';
import { PARAMETER_WORDS, parseQuick, type Quick } from '../quick';
import { parseDate, type DateOrder, type WrittenMoment } from './sheet-dates';

/** One line of a page of a note book, as it was understood. */
type NotebookLine =
	| { kind: 'nothing' }
	/** A day, or what is measured, for the lines below it. */
	| { kind: 'heading' }
	/** `day` as 2026-05-03, `hour` as 20:15 where one is written. */
	| { kind: 'test'; day: string; hour?: string; quick: Quick }
	| { kind: 'problem'; message: string };

/** How a page is to be understood: the tank's day today (2026-05-06), and how its keeper writes dates. */
interface NotebookHabits {
	today: string;
	order: DateOrder;
	unitOf?: Parameters<typeof parseQuick>[2];
}

/** A page has no more lines than this: what is longer is a sheet, and is imported as one. */
export const LONGEST_PAGE = 500;

/**
 * A page of a note book, line by line: a day, what was measured, what was read, each of the first two left out where it is as above.
 * "3 May alk left 0.46", below it "0.48", below that "ca" and "2026-05-04 7:30 0.61". `methods` as in {@link parseQuick}.
 *
 * @example parseNotebook('alk\n3 May 0.46\n4 May 0.48', SHIPPED_METHODS, { today: '2026-05-06', order: 'dmy' }).at(-1).day // → '2026-05-04'
 */
export function parseNotebook(text: string, methods: Method[], habits: NotebookHabits): NotebookLine[] {
	let day: string | undefined;
	let what = '';
	return text.split(/\r?\n/).map((written): NotebookLine => {
		if (written.trim() === '') return { kind: 'nothing' };
		const { date, rest } = withoutDate(written.trim(), habits);
		if (date) day = dayOf(date);
		const hour = date?.time && `${two(date.time.hour)}:${two(date.time.minute)}`;
		const [, word = '', tail = ''] = /^([a-z]+\d?)\b\s*[:=]?\s*(.*)$/i.exec(rest) ?? [];
		const named = PARAMETER_WORDS[word.toLowerCase()] !== undefined;
		if (named) what = /\d/.test(tail) ? word : rest;
		if (rest === '' || (named && !/\d/.test(tail))) return { kind: 'heading' };
		if (!what) return { kind: 'problem', message: 'write what was measured first: alk, ca, mg, no3' };
		const read = parseQuick(named ? rest : `${what} ${rest}`, methods, habits.unitOf);
		if (!read.ok) return { kind: 'problem', message: read.problems[0]!.message };
		const { when, ...quick } = read.value;
		const then = when && dayFrom(when.day, habits.today);
		const its = then ?? day;
		if (!its) return { kind: 'problem', message: 'write its day before it, or on a line above: 3 May 2026' };
		const at = when?.hour?.padStart(5, '0') ?? hour;
		return { kind: 'test', day: its, ...(at ? { hour: at } : {}), quick };
	});
}

const two = (n: number): string => String(n).padStart(2, '0');
const dayOf = ({ year, month, day }: WrittenMoment): string => `${year}-${two(month)}-${two(day)}`;

/** "yesterday" and a day of its own; an hour alone is of the day above. */
function dayFrom(day: { ago: number } | { on: string }, today: string): string | undefined {
	if ('on' in day) return day.on;
	if (day.ago === 0) return undefined;
	return new Date(Date.parse(`${today}T00:00:00Z`) - day.ago * DAY).toISOString().slice(0, 10);
}

/** A date has so many words at most: "Sunday, 3 May 2026 at 8:15 pm". */
const DATE_WORDS = 7;
/** The longest beginning of a line that is a date, and what comes after it. */
function withoutDate(line: string, habits: NotebookHabits): { date?: WrittenMoment; rest: string } {
	const words = line.split(/\s+/);
	for (let n = Math.min(DATE_WORDS, words.length); n > 0; n--) {
		const written = words.slice(0, n).join(' ').replace(/[:,]$/, '');
		// A number alone is what was read, not so many days since 1899.
		if (/^\d+([.,]\d+)?$/.test(written)) continue;
		const date = parseDate(written, habits.order) ?? withYear(written, habits);
		if (date) return { date, rest: words.slice(n).join(' ') };
	}
	return { rest: line };
}

/** A day without its year is the last one of that name: "3 May", "May 3", "3/5", "3.5.". */
function withYear(written: string, { today, order }: NotebookHabits): WrittenMoment | undefined {
	const [, mark] = /^\d{1,2}(\/|\.)\d{1,2}\.?$/.exec(written) ?? [];
	const isNamed = /^\d{1,2}(st|nd|rd|th|\.)?\s+[a-zäéû]{3,}\.?$|^[a-zäéû]{3,}\.?\s+\d{1,2}(st|nd|rd|th)?$/i;
	if (mark === '.' ? !written.endsWith('.') : !mark && !isNamed.test(written)) return undefined;
	const year = Number(today.slice(0, 4));
	for (const its of [year, year - 1]) {
		const full = mark ? `${written.replace(/\.$/, '')}${mark}${its}` : `${written} ${its}`;
		const date = parseDate(full, order === 'ymd' ? 'dmy' : order);
		if (date && dayOf(date) <= today) return date;
	}
	return undefined;
}
