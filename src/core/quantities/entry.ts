import { bad, good, type Outcome } from '../problems';

/** A number as people write it: exact, between two, or only on one side of a bound. */
export type Entered =
	| { kind: 'exact'; value: number }
	| { kind: 'between'; low: number; high: number }
	| { kind: 'below'; value: number }
	| { kind: 'above'; value: number };

export interface Entry {
	number: Entered;
	/** Words before and after the number, lower case: "used", "ml". */
	before: string;
	after: string;
}

const NUMBER = String.raw`[+-]?(?:\d+(?:[.,]\d+)?|[.,]\d+)`;
const BETWEEN = new RegExp(`^(${NUMBER})\\s*(?:-|–|—|\\.\\.\\.?|…)\\s*(${NUMBER})$`);
const EXACT = new RegExp(`^(${NUMBER})$`);
const BOUND = new RegExp(`^(<|>|≤|≥|<=|>=|below|under|less than|above|over|more than)\\s*(${NUMBER})$`);
const AROUND =
	/^(?<before>[a-z ]*?)\s*(?<number>(?:(?:below|under|less than|above|over|more than)\s*|[<>≤≥]=?\s*)?[+-]?[.,\d].*?)\s*(?<after>[a-zµ°%/][\sa-z0-9µ°/%+-]*)?$/;

/** Nobody writes a number with its words longer than this, characters. What is longer is not looked at: patterns go back and forth. */
export const LONGEST_ENTRY = 100;

/**
 * What a typed number means: "8,1", ".5", "<0.2", "0.46-0.48", "used .52", "6.2 ml". A comma is a decimal mark.
 * Problems: nothing typed, no number in it, a thousands separator that could be read two ways, ends the wrong way round.
 *
 * @example parseEntry('<0.2').value.number // → { kind: 'below', value: 0.2 }
 */
export function parseEntry(text: string): Outcome<Entry> {
	const whole = text.trim();
	if (whole.length > LONGEST_ENTRY)
		return bad('', `“${whole.slice(0, 20)}…” is too long for a number; write for example 0.48`);
	const typed = whole
		.toLowerCase()
		.replaceAll('−', '-')
		.replace(/(\d)\s*to\s*([.,\d])/, '$1-$2');
	if (typed === '') return bad('', 'type a number, for example 0.48');
	const parts = AROUND.exec(typed)?.groups;
	if (!parts) return bad('', `“${whole}” holds no number; write for example 0.48`);
	const number = parseNumber(parts['number'] ?? '');
	if (!number.ok) return number;
	return good({
		number: number.value,
		before: (parts['before'] ?? '').trim(),
		after: (parts['after'] ?? '').trim()
	});
}

function parseNumber(text: string): Outcome<Entered> {
	const exact = EXACT.exec(text);
	if (exact) return good({ kind: 'exact', value: toNumber(exact[1]!) });
	const between = BETWEEN.exec(text);
	if (between) {
		const low = toNumber(between[1]!);
		const high = toNumber(between[2]!);
		if (low === high) return good({ kind: 'exact', value: low });
		return low < high
			? good({ kind: 'between', low, high })
			: bad('', `write the smaller end first: ${between[2]}-${between[1]}`);
	}
	const bound = BOUND.exec(text);
	if (bound)
		return good({ kind: /^[<≤bul]/.test(bound[1]!) ? 'below' : 'above', value: toNumber(bound[2]!) });
	if (/\d[.,]\d+[.,]\d/.test(text))
		return bad('', `“${text}” has two decimal marks; write for example 1280 or 8.1`);
	return bad('', `“${text}” is not understood; write for example 0.48, 0.46-0.48 or <0.2`);
}

const toNumber = (text: string) => Number(text.replace(',', '.'));
