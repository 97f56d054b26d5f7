import { cut, nth } from '../base';
import { LONGEST_ENTRY, parseEntry, type Entered } from '../quantities';
import { parameterOf, type ParameterId } from '../catalogue';
import { ASKED, parameterIn, plain, unitIn, type SheetLayout } from './sheet-columns';

/** What stands in a sheet's cells: which of them hold values, and the numbers in them as people write them. */

/** A filled cell that holds a value; `unit` as its column or its parameter's name says it. */
export interface ValueCell {
	column: number;
	cell: string;
	parameter: ParameterId;
	unit: string | null;
}

/** Filled cells that hold values, with what they are of. */
export function* valueCells(row: string[], { columns }: SheetLayout): Generator<ValueCell> {
	const of = columns.findIndex((m) => m.kind === 'parameter');
	for (const [column, meaning] of columns.entries()) {
		if (meaning.kind !== 'value' || meaning.unit === ASKED) continue;
		const cell = row[column] ?? '';
		if (isNothing(cell)) continue;
		if (meaning.parameter) yield { column, cell, parameter: meaning.parameter, unit: meaning.unit };
		else {
			const named = parameterIn(row[of] ?? '');
			if (named) yield { column, cell, parameter: named.parameter, unit: meaning.unit ?? named.unit };
		}
	}
}

/** Marks that people put where they did not test. */
export const isNothing = (cell: string): boolean => /^(?:[-–—./]+|n\/?a|none|\?)?$/i.test(cell.trim());

/** A cell as a sentence repeats it: cut, however much stands in it. */
export const inShort = (cell: string): string => {
	const text = cell.trim();
	return text.length > 40 ? `${cut(text, 40)}…` : text;
};

/** What a cell's number is, whatever marks stand around it, or why it is none. */
export function numberIn(
	cell: string,
	decimal: '.' | ',',
	parameter: ParameterId,
	unit: string | null
): Entered | string {
	const whole = cell.trim();
	if (whole.length > LONGEST_ENTRY) return `“${inShort(whole)}” is too long for a number`;
	const text = whole
		.replace(/^(?:~|≈|ca\.?|approx\.?)\s*/i, '')
		.replace(/\s*(?:±|\+\/-)\s*[\d.,]+/, '')
		.replace(/(\d)[\s'’](?=\d{3}\b)/g, '$1');
	if (/^(?:n\.?d\.?|nil|not detected|undetectable|trace)$/i.test(text))
		return `“${whole}”: below what? Write for example <0.2`;
	const entry = parseEntry(withoutThousands(text, decimal, parameter));
	if (!entry.ok) return nth(entry.problems, 0).message;
	const { number, before, after } = entry.value;
	if (before) return `“${whole}” has words before its number`;
	if (after && unit !== null && unitIn(parameter, after) !== unit && plain(after) !== plain(unit))
		return `“${after}” is not ${unit}; choose the column's unit, or give it a column of its own`;
	return number;
}

/** "1,280" is a thousand and more where the decimal mark is a point, or where 1.28 of it makes no sense. */
function withoutThousands(text: string, decimal: '.' | ',', parameter: ParameterId): string {
	return text.replace(/\d{1,3}(?:[.,]\d{3})+(?:[.,]\d+)?(?!\d)/g, (number) => {
		const groups = number.split(/[.,]/);
		const marks = number.replace(/\d/g, '');
		if (groups.length > 2) {
			// Two unlike marks: the last is the decimal one. Two alike: both part thousands.
			return marks[0] === marks.at(-1) ? groups.join('') : `${groups.slice(0, -1).join('')}.${groups.at(-1)}`;
		}
		const [low, high] = parameterOf(parameter)!.plausible;
		const whole = Number(groups.join(''));
		const fraction = Number(groups.join('.'));
		if (whole >= low / 2 && whole <= high * 2) return String(whole);
		if (fraction >= low / 2 && fraction <= high * 2) return String(fraction);
		return marks === decimal ? String(fraction) : String(whole);
	});
}
