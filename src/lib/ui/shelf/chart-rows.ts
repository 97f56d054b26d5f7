import { chart, parseLines, type ChartResult } from '$core/calibration';
import type { Method } from '$core/instruments';
import type { Problem } from '$core/base';

/** One line of the table as it is typed: what is read, and what the leaflet says it means. */
export interface Row {
	reading: string;
	value: string;
	/** Its keeper looked again: it stands so on the leaflet. */
	sure?: boolean;
}
const EMPTY: Row = { reading: '', value: '' };
const isEmpty = ({ reading, value }: Row) => reading.trim() === '' && value.trim() === '';

/** Rows with one empty one at the end, to type on in. */
export const withRoom = (rows: Row[]): Row[] =>
	rows.length && isEmpty(rows.at(-1)!) ? rows : [...rows, { ...EMPTY }];

/** The lines of a method's chart, to be looked at and corrected; what stands in its scale is right. */
export function rowsOf(method: Method): Row[] {
	const scale = 'scale' in method && method.scale.kind === 'table' ? method.scale.points : [];
	const lines = 'lines' in method ? (method.lines ?? scale) : scale;
	return withRoom(
		lines.map(([x, y]) => ({
			reading: String(x),
			value: String(y),
			...(scale.some((p) => p[0] === x && p[1] === y) ? { sure: true } : {})
		}))
	);
}

/** Rows with what was pasted into one of them: a table, or lines of two numbers, takes its rows from there on. */
export function pasted(rows: Row[], at: number, text: string): Row[] | undefined {
	if (!/[\n\t;]/.test(text.trim()) && !/\d\s+[\d.,]/.test(text.trim())) return undefined;
	const { points } = parseLines(text);
	if (!points.length) return undefined;
	const taken = points.map(([x, y]) => ({ reading: String(x), value: String(y) }));
	return withRoom([...rows.slice(0, at), ...taken, ...rows.slice(at).filter((r) => !isEmpty(r))]);
}

/** What a table says: its points, which row each came from, what is wrong, and the scale through them. */
export interface ChartTyped {
	points: [number, number][];
	/** The row of each point, counted from 0. */
	rowOf: number[];
	/** Rows that are no line, with why. */
	problems: Map<number, string>;
	/** What is wrong with all of them together. */
	problem: string | undefined;
	fit: ChartResult | undefined;
	/** The chart is asked about, and nobody has said that it stands so on the leaflet: it does not count. */
	open: boolean;
}

export interface Instrument {
	parameter: string;
	unit: string;
	reads: 'syringe' | 'drops';
	/** What the syringe holds, mL. */
	fillMl: number;
	/** What the leaflet says its readings are, where it does. */
	readAs?: 'left' | 'used' | undefined;
	/** The lines that the keeper looked at again and said to be as printed, as {@link linesSaid} has them. */
	checked?: string | undefined;
}
/** Another unit, or another way to read it, is another question. */
export const linesSaid = (points: [number, number][], asks: ChartResult['asks']): string =>
	JSON.stringify([points, asks]);

/** Reads a table of typed lines. Half a line is waited for, not complained of. */
export function chartTyped(rows: Row[], instrument: Instrument): ChartTyped {
	const points: [number, number][] = [];
	const rowOf: number[] = [];
	const sure: number[] = [];
	const problems = new Map<number, string>();
	rows.forEach((row, i) => {
		if (row.reading.trim() === '' || row.value.trim() === '') return;
		const { points: found } = parseLines(`${row.reading} ; ${row.value}`);
		if (found.length === 1) {
			if (row.sure) sure.push(points.length);
			points.push(found[0]!);
			rowOf.push(i);
		} else problems.set(i, 'is not two numbers');
	});
	const { fillMl, readAs, checked, ...of } = instrument;
	const outcome =
		points.length < 2
			? undefined
			: chart({
					...of,
					points,
					...(sure.length ? { sure } : {}),
					...(of.reads === 'syringe' ? { syringe: { fillMl } } : {}),
					...(readAs ? { readAs } : {})
				});
	const at = (p: Problem) => /^\/points\/(\d+)/.exec(p.path)?.[1];
	for (const p of outcome?.ok === false ? outcome.problems : []) {
		const index = at(p);
		if (index !== undefined) problems.set(rowOf[Number(index)]!, p.message);
	}
	return {
		points,
		rowOf,
		problems,
		problem: outcome?.ok === false ? outcome.problems.find((p) => at(p) === undefined)?.message : undefined,
		fit: outcome?.ok ? outcome.value : undefined,
		open:
			outcome?.ok === true &&
			outcome.value.asks.length > 0 &&
			checked !== linesSaid(points, outcome.value.asks)
	};
}
