import Type from 'typebox';
import { bad, good, nth, type Outcome } from '../base';
import { median } from '../statistics';

const exact = { additionalProperties: false } as const;
const place = Type.Number({ minimum: -1e5, maximum: 1e5 });
/** Left, top, right and bottom in the picture, pixels. */
const Box = Type.Tuple([place, place, place, place]);
export type Box = Type.Static<typeof Box>;

/** `leaflet`: words as text recognition found them in a picture of a chart seen straight on. */
export const LeafletRequest = Type.Object(
	{
		words: Type.Array(
			Type.Object(
				{
					text: Type.String({ maxLength: 60 }),
					/** How sure the recognition is, 0 to 100. */
					confidence: Type.Number({ minimum: 0, maximum: 100 }),
					box: Box,
					/** How many letters stand behind a point that was seen in it: `text` is without it then. */
					decimals: Type.Optional(Type.Integer({ minimum: 1, maximum: 10 }))
				},
				exact
			),
			{ maxItems: 2000 }
		),
		/** Which column of values is wanted where several stand beside one of readings, from 0. */
		valueColumn: Type.Optional(Type.Integer({ minimum: 0, maximum: 20 }))
	},
	exact
);
export type LeafletRequest = Type.Static<typeof LeafletRequest>;

const Cell = Type.Object(
	{ text: Type.String(), box: Box, doubt: Type.Boolean(), read: Type.Optional(Type.String()) },
	exact
);
type Cell = Type.Static<typeof Cell>;
export const LeafletResult = Type.Object(
	{
		/** Lines from the top, column by column of readings. `doubt`: look at it; `read`: what was recognised, where it was put right. */
		lines: Type.Array(Type.Object({ reading: Cell, value: Cell }, exact)),
		/** How many columns of values stand beside one of readings. */
		valueColumns: Type.Integer(),
		/** Cells of a line whose other half was not found. */
		alone: Type.Array(Cell)
	},
	exact
);
export type LeafletResult = Type.Static<typeof LeafletResult>;

/** Below this the recognition says itself that it guesses. */
const SURE = 70;
/** Letters that are read where a digit stands. */
const LOOK_ALIKE: Record<string, string> = {
	O: '0',
	o: '0',
	Q: '0',
	D: '0',
	l: '1',
	I: '1',
	'|': '1',
	i: '1',
	S: '5',
	s: '5',
	B: '8',
	Z: '2',
	z: '2',
	g: '9'
};
/** A column has at least this share of as many numbers as the fullest one: what has fewer is a heading or a note. */
const A_COLUMN = 0.4;
/** Readings of a chart go on by even steps; where so many do, what does not is put right. */
const EVEN = 0.7;

interface Found {
	text: string;
	/** Where it was seen, and where it would stand on a sheet that is not turned. */
	seen: Box;
	box: Box;
	doubt: boolean;
	read?: string;
}

/**
 * Lines of a leaflet's chart from recognised words: numbers are told from other words, joined where a point tore them apart, put into
 * rows and columns, and a decimal point that was lost is put back by its column's habit. Readings go by even steps, so a misread one is
 * put right by its neighbours. Whatever was not simply read is in doubt. Problems: no two columns of numbers.
 *
 * @example leaflet({ words: ['1.00', '0.5'].flatMap((text, i) => [{ text, confidence: 95, box: [10, 30 * i, 50, 30 * i + 20] }, { text: String(8.4 * i), confidence: 95, box: [90, 30 * i, 120, 30 * i + 20] }]) }).value.lines.length // → 2
 */
export function leaflet({ words, valueColumn = 0 }: LeafletRequest): Outcome<LeafletResult> {
	const numbers = upright(joined(words).flatMap(asNumber));
	const columns = columnsOf(numbers);
	if (columns.length < 2)
		return bad('/words', 'no two columns of numbers were found: take the chart alone, straight on and sharp');
	const fixed = columns.map(withPoints);
	const groups = groupsOf(fixed);
	const height = median(numbers.map(({ box }) => box[3] - box[1]));
	const lines: LeafletResult['lines'] = [];
	const alone: Cell[] = [];
	for (const [readings, ...values] of groups) {
		const even = evenly(readings!);
		const wanted = values[Math.min(valueColumn, values.length - 1)]!;
		const taken = new Set<Found>();
		for (const reading of even) {
			const value = nearest(wanted, reading, height);
			if (!value || taken.has(value)) alone.push(cellOf(reading));
			else {
				taken.add(value);
				lines.push({ reading: cellOf(reading), value: cellOf(value) });
			}
		}
		alone.push(...wanted.filter((v) => !taken.has(v)).map(cellOf));
	}
	if (!lines.length) return bad('/words', 'no line with a reading and a value was found');
	return good({ lines, valueColumns: groups[0]!.length - 1, alone });
}

const cellOf = ({ text, seen, doubt, read }: Found): Cell => ({
	text,
	box: seen,
	doubt,
	...(read === undefined ? {} : { read })
});
const middleY = ({ box }: { box: Box }) => (box[1] + box[3]) / 2;
const middleX = ({ box }: { box: Box }) => (box[0] + box[2]) / 2;

type Word = LeafletRequest['words'][number];

/** Words that were torn apart at their decimal point. */
function joined(words: Word[]): Word[] {
	const sorted = [...words].sort((a, b) => a.box[0] - b.box[0]);
	const out: Word[] = [];
	for (const word of sorted) {
		const before = out.findLast((w) => {
			const height = w.box[3] - w.box[1];
			const gap = word.box[0] - w.box[2];
			const level = Math.abs(middleY(w) - middleY(word)) < 0.5 * height;
			return (
				level &&
				gap < 0.45 * height &&
				gap > -0.3 * height &&
				(/^\d+[.,]$/.test(w.text) ? /^\d/.test(word.text) : /^\d+$/.test(w.text) && /^[.,]\d/.test(word.text))
			);
		});
		if (!before) out.push({ ...word });
		else {
			before.text += word.text;
			before.confidence = Math.min(before.confidence, word.confidence);
			before.box = [
				before.box[0],
				Math.min(before.box[1], word.box[1]),
				word.box[2],
				Math.max(before.box[3], word.box[3])
			];
		}
	}
	return out;
}

/** A word that is a number, perhaps with letters that look like digits. */
function asNumber({ text: read, confidence, box, decimals }: Word): Found[] {
	const text =
		decimals && decimals < read.length && !/[.,]/.test(read)
			? `${read.slice(0, -decimals)}.${read.slice(-decimals)}`
			: read;
	const bare = text.replace(/^[^\w.,]+|[^\w]+$/g, '').replace(/(mL|ml|dKH|ppm|mg\/?L?)$/i, '');
	const digits = [...bare]
		.map((c) => LOOK_ALIKE[c] ?? c)
		.join('')
		.replace(',', '.');
	const real = [...bare].filter((c) => /\d/.test(c)).length;
	if (!/^(\d+\.?\d*|\.\d+)$/.test(digits) || real * 2 < bare.replace(/[.,]/g, '').length) return [];
	const clean = digits.replace(/\.$/, '');
	const altered = digits !== bare.replace(',', '.') || clean !== digits;
	return [
		{ text: clean, seen: box, box, doubt: altered || confidence < SURE, ...(altered ? { read: text } : {}) }
	];
}

/** Words below one another stand so near, in heights of a letter. */
const BELOW = 4;

/**
 * By how much columns of words lean to the right for each pixel down: from each word to the nearest one below it.
 *
 * @example leanOf([[0, 0, 20, 10], [2, 20, 22, 30]]) // → 0.1
 */
export function leanOf(boxes: Box[]): number {
	const leans = boxes.flatMap((above) => {
		const height = above[3] - above[1];
		const below = boxes
			.map((box) => ({
				right: middleX({ box }) - middleX({ box: above }),
				down: middleY({ box }) - middleY({ box: above })
			}))
			.filter(
				({ right, down }) => down > 0.8 * height && down < BELOW * height && Math.abs(right) < 0.5 * down
			)
			.sort((a, b) => a.down - b.down)[0];
		return below ? [below.right / below.down] : [];
	});
	return leans.length ? median(leans) : 0;
}

/** Numbers as they would stand on a sheet that was not turned. */
function upright(numbers: Found[]): Found[] {
	const lean = leanOf(numbers.map(({ box }) => box));
	return numbers.map((n) => {
		const [right, down] = [-lean * middleY(n), lean * middleX(n)];
		const [l, t, r, b] = n.box;
		return { ...n, box: [l + right, t + down, r + right, b + down] };
	});
}

/** Numbers that stand below one another, from the left; each column from the top. */
function columnsOf(numbers: Found[]): Found[][] {
	if (!numbers.length) return [];
	const height = median(numbers.map(({ box }) => box[3] - box[1]));
	const columns: Found[][] = [];
	for (const number of [...numbers].sort((a, b) => middleX(a) - middleX(b))) {
		const column = columns.find((c) => {
			// Shared ground: numbers of one column are set flush left, right or in the middle.
			const lefts = median(c.map(({ box }) => box[0]));
			const rights = median(c.map(({ box }) => box[2]));
			return (
				Math.min(rights, number.box[2]) - Math.max(lefts, number.box[0]) >
				0.3 * Math.min(rights - lefts, number.box[2] - number.box[0], 2 * height)
			);
		});
		if (column) column.push(number);
		else columns.push([number]);
	}
	const fullest = Math.max(0, ...columns.map((c) => c.length));
	return columns
		.filter((c) => c.length >= Math.max(2, A_COLUMN * fullest))
		.map((c) => c.sort((a, b) => middleY(a) - middleY(b)));
}

/** Decimals are alike all down a column: a lost point is put back. */
function withPoints(column: Found[]): Found[] {
	const decimals = column.map(({ text }) => text.split('.')[1]?.length ?? 0);
	const seen = mostOf(decimals.filter((d) => d > 0));
	// Nobody writes 03: behind a nought at the front stood a point.
	const lost = column.flatMap(({ text }) => (/^0\d+$/.test(text) ? [text.length - 1] : []));
	const usual = seen ?? (lost.length > 1 ? mostOf(lost) : undefined);
	if (usual === undefined) return column;
	const pointed = column.map((found) => {
		const { text } = found;
		if (text.includes('.')) return text.split('.')[1]?.length === usual ? found : { ...found, doubt: true };
		if (text.length <= usual) return text === '0' ? found : { ...found, doubt: true };
		return {
			...found,
			text: `${text.slice(0, -usual)}.${text.slice(-usual)}`,
			doubt: true,
			read: found.read ?? text
		};
	});
	// Few have a point: the column counts in whole numbers, unless noughts at the front say otherwise, or it only goes one way with points.
	const many = decimals.filter((d) => d === seen).length >= 0.5 * column.length;
	return many || lost.length > 1 || turnsIn(pointed) < turnsIn(column) ? pointed : column;
}

/** How often a column that should go one way goes the other. */
function turnsIn(column: Found[]): number {
	const steps = column.slice(1).map((f, i) => Math.sign(valueOf(f) - valueOf(nth(column, i))));
	const up = steps.filter((s) => s > 0).length;
	const down = steps.filter((s) => s < 0).length;
	return Math.min(up, down);
}

function mostOf(values: number[]): number | undefined {
	const counts = new Map<number, number>();
	for (const v of values) counts.set(v, (counts.get(v) ?? 0) + 1);
	return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0];
}

/** Which columns belong together: reading and values. A chart in several blocks begins again with readings that go on where the last block's ended. */
function groupsOf(columns: Found[][]): Found[][][] {
	for (const wide of [2, 3, 4])
		if (columns.length % wide === 0 && columns.length > wide) {
			const starts = columns.filter((_, i) => i % wide === 0);
			if (starts.slice(1).every((c, i) => goesOn(evenly(nth(starts, i)), evenly(c))))
				return starts.map((_, g) => columns.slice(g * wide, (g + 1) * wide));
		}
	return [columns];
}

const valueOf = ({ text }: Found) => Number(text);
const stepOf = (column: Found[]): number =>
	median(column.slice(1).map((f, i) => valueOf(f) - valueOf(nth(column, i))));

function goesOn(before: Found[], after: Found[]): boolean {
	const step = stepOf(before);
	const gap = valueOf(after[0]!) - valueOf(before[before.length - 1]!);
	return (
		step !== 0 &&
		Math.abs(stepOf(after) - step) < 0.3 * Math.abs(step) &&
		Math.abs(gap - step) < 0.6 * Math.abs(step)
	);
}

/** Readings that go by even steps from row to row, with those put right that do not. */
function evenly(column: Found[]): Found[] {
	if (column.length < 5) return column;
	const rows = column.map(middleY);
	const pitch = median(rows.slice(1).map((y, i) => y - nth(rows, i)));
	const places = rows.map((y) => Math.round((y - rows[0]!) / pitch));
	const step = stepOf(column);
	const start = median(column.map((f, i) => valueOf(f) - step * nth(places, i)));
	const decimals = Math.max(...column.map(({ text }) => text.split('.')[1]?.length ?? 0));
	const fits = (f: Found, i: number) =>
		Math.abs(valueOf(f) - start - step * nth(places, i)) < 0.25 * Math.abs(step);
	if (step === 0 || column.filter(fits).length < EVEN * column.length) return column;
	return column.map((f, i) =>
		fits(f, i)
			? f
			: { ...f, text: (start + step * nth(places, i)).toFixed(decimals), doubt: true, read: f.read ?? f.text }
	);
}

/** The value on a reading's own line. */
function nearest(values: Found[], reading: Found, height: number): Found | undefined {
	const best = values.reduce<Found | undefined>(
		(a, b) =>
			!a || Math.abs(middleY(b) - middleY(reading)) < Math.abs(middleY(a) - middleY(reading)) ? b : a,
		undefined
	);
	return best && Math.abs(middleY(best) - middleY(reading)) < 0.75 * height ? best : undefined;
}
