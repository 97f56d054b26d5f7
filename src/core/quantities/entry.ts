import { bad, good, type Outcome } from '../base';

/** A number as people write it: exact, between two, or only on one side of a bound. */
export type Entered =
	| { kind: 'exact'; value: number }
	| { kind: 'between'; low: number; high: number }
	| { kind: 'below'; value: number }
	| { kind: 'above'; value: number };

interface Entry {
	number: Entered;
	/** Words before and after the number, lower case: "used", "ml". */
	before: string;
	after: string;
}

const NUMBER = String.raw`[+-]?(?:\d{1,3}(?:[\s'’]\d{3})+(?:[.,]\d+)?|\d+(?:[.,]\d+)*|[.,]\d+)`;
const BETWEEN = new RegExp(`^(${NUMBER})\\s*(?:-|–|—|\\.\\.\\.?|…)\\s*(${NUMBER})$`);
const EXACT = new RegExp(`^(${NUMBER})$`);
const BOUND = new RegExp(`^(<|>|≤|≥|<=|>=|below|under|less than|above|over|more than)\\s*(${NUMBER})$`);
const AROUND =
	/^(?<before>[a-z ]*?)\s*(?<number>(?:(?:below|under|less than|above|over|more than)\s*|[<>≤≥]=?\s*)?[+-]?[.,\d].*?)\s*(?<after>[a-zµ°%/][\sa-z0-9µ°/%+-]*)?$/;

/** Nobody writes a number with its words longer than this, characters. What is longer is not looked at: patterns go back and forth. */
export const LONGEST_ENTRY = 100;

/**
 * What a typed number means: "8,1", ".5", "<0.2", "0.46-0.48", "used .52", "6.2 ml", "1 280", "1.280,5". One mark before three digits ("1,320") is a decimal
 * mark, unless `plausible` says that only the other reading can be; where both can be, it is a problem.
 * Problems: nothing typed, no number in it, ends the wrong way round, a mark that could be of thousands.
 *
 * @example parseEntry('<0.2').value.number // → { kind: 'below', value: 0.2 }
 */
export function parseEntry(text: string, plausible?: (value: number) => boolean): Outcome<Entry> {
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
	const number = parseNumber(parts['number'] ?? '', plausible);
	if (!number.ok) return number;
	return good({
		number: number.value,
		before: (parts['before'] ?? '').trim(),
		after: (parts['after'] ?? '').trim()
	});
}

function parseNumber(text: string, plausible?: (value: number) => boolean): Outcome<Entered> {
	const of = (written: string | undefined) => valueOf(written ?? '', plausible);
	const exact = EXACT.exec(text);
	if (exact) {
		const value = of(exact[1]);
		return value.ok ? good({ kind: 'exact', value: value.value }) : value;
	}
	const between = BETWEEN.exec(text);
	if (between) {
		const [low, high] = [of(between[1]), of(between[2])];
		if (!low.ok) return low;
		if (!high.ok) return high;
		if (low.value === high.value) return good({ kind: 'exact', value: low.value });
		return low.value < high.value
			? good({ kind: 'between', low: low.value, high: high.value })
			: bad('', `write the smaller end first: ${between[2]}-${between[1]}`);
	}
	const bound = BOUND.exec(text);
	if (bound) {
		const value = of(bound[2]);
		return value.ok
			? good({ kind: /^[<≤bul]/.test(bound[1]!) ? 'below' : 'above', value: value.value })
			: value;
	}
	return bad('', `“${text}” is not understood; write for example 0.48, 0.46-0.48 or <0.2`);
}

/** A written number by its marks and, where they leave it open, by what is plausible. */
function valueOf(written: string, plausible?: (value: number) => boolean): Outcome<number> {
	const sign = written.startsWith('-') ? -1 : 1;
	const could = meanings(written.replace(/^[+-]/, '')).map((value) => sign * value);
	const [one, other] = could;
	if (one === undefined) return bad('', `“${written}” has two decimal marks; write for example 1280 or 8.1`);
	if (other === undefined) return good(one);
	const [whole, fraction] = [plausible?.(one) ?? false, plausible?.(other) ?? true];
	if (whole && fraction)
		return bad('', `“${written}” could be ${one} or ${other}: write ${one}, or ${written}0`);
	return good(whole ? one : other);
}

/**
 * What a written number may mean, without its sign: "1,500" is fifteen hundred or one and a half, "1.280,5" and "1,280,500" are one thing each, and what
 * nobody writes is nothing.
 *
 * @example meanings('1,500') // → [1500, 1.5]
 */
export function meanings(written: string): number[] {
	const bare = written.replace(/[\s'’]/g, '');
	const whole = Number(bare.replace(/[.,]/g, ''));
	if (/^[1-9]\d{0,2}([.,])\d{3}(?:\1\d{3})+$/.test(bare)) return [whole];
	if (/^[1-9]\d{0,2}(?:(?:,\d{3})+\.\d+|(?:\.\d{3})+,\d+)$/.test(bare)) {
		const mark = Math.max(bare.lastIndexOf('.'), bare.lastIndexOf(','));
		return [Number(`${bare.slice(0, mark).replace(/[.,]/g, '')}.${bare.slice(mark + 1)}`)];
	}
	if (!/^(?:\d+|\d*[.,]\d+)$/.test(bare)) return [];
	const fraction = Number(bare.replace(',', '.'));
	return /^[1-9]\d{0,2}[.,]\d{3}$/.test(bare) ? [whole, fraction] : [fraction];
}
