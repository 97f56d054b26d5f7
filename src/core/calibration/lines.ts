import { nth, type Problem } from '../base';

/** Lines as typed or pasted from a leaflet: a reading and a value each, whatever stands between them. */
interface TypedLines {
	points: [number, number][];
	/** Which typed line each point came from, counted from 1. */
	lineOf: number[];
	problems: Problem[];
}

/** A dash right behind a number, or before the second, stands between them: neither readings nor values are below 0. */
const NUMBER = /(?:\d+(?:[.,]\d+)?|[.,]\d+)/g;
const BELOW_ZERO = /^\s*-\s*[\d.,]/;

/**
 * Reads lines such as "0,48  8,1", "0.48;8.1", "0.48-8.1", "0.48 = 8.1 dKH". Empty lines and headings without a number are passed over.
 *
 * @example parseLines('1,00 0\n0,50 8,4').points // → [[1, 0], [0.5, 8.4]]
 */
export function parseLines(text: string): TypedLines {
	const read: TypedLines = { points: [], lineOf: [], problems: [] };
	text.split(/\r?\n/).forEach((line, i) => {
		const numbers = (line.match(NUMBER) ?? []).map((n, k) => {
			const value = Number(n.replace(',', '.'));
			return k === 0 && BELOW_ZERO.test(line) ? -value : value;
		});
		if (numbers.length === 0) return;
		if (numbers.length === 2) {
			read.points.push([nth(numbers, 0), nth(numbers, 1)]);
			read.lineOf.push(i + 1);
		} else
			read.problems.push({
				path: `/lines/${i + 1}`,
				message: `line ${i + 1} has ${numbers.length === 1 ? 'one number' : `${numbers.length} numbers`}; write reading and value: 0.48 8.1`
			});
	});
	return read;
}
