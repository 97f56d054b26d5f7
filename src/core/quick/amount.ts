import { bad, good, type Outcome } from '../base';
import { UNITS, convert, formatUnit, parseEntry, unitOf, type Quantity } from '../quantities';
import { parameterOf } from '../catalogue';
import { AMOUNT_WORDS, UNIT_WORDS } from './words';

const WORDS: Partial<Record<Quantity, Record<string, string | null>>> = { ...UNIT_WORDS, ...AMOUNT_WORDS };

/**
 * A number with or without a unit behind it, in `unit`: "50 gal" in L, "120 ppm" in dKH, "78 F" in C. Without one it is in
 * `typedIn`, the unit of who wrote it, but for a salinity that can only be a specific gravity.
 * Problems: no number, a unit that is none of the quantity's, one that could mean two.
 *
 * @example amountIn('50 gal', 'volume', 'L').value // → 189.3
 */
export function amountIn(
	text: string,
	quantity: Quantity,
	unit: string,
	typedIn: string = unit
): Outcome<number> {
	const typed = typedAmount(text, quantity, (value, said) => isPlausible(quantity, value, said ?? typedIn));
	if (!typed.ok) return typed;
	const { value, said } = typed.value;
	const from = said ?? (isGravity(value, quantity, typedIn) ? 'SG 25/25' : typedIn);
	const found = convert({ quantity, value, from, to: unit });
	return found.ok ? good(found.value.value) : bad('', found.problems[0]?.message ?? 'is not possible');
}

/**
 * A change by so much: as {@link amountIn}, but of units that begin at the same nothing ("18 ppm" more is 1 dKH more; "0.001 SG"
 * more is no number of PSU). Minus and plus signs count.
 *
 * @example changeIn('+18 ppm', 'alkalinity', 'dKH').value // → 1.009
 */
export function changeIn(text: string, quantity: Quantity, unit: string): Outcome<number> {
	const typed = typedAmount(text.replace(/^\s*\+/, ''), quantity, () => true);
	if (!typed.ok) return typed;
	const { value, said: from = unit } = typed.value;
	if (from === unit) return good(value);
	const [there, here] = [unitOf(quantity, from), unitOf(quantity, unit)];
	if (!there || !here || there.toBase(0) !== 0 || here.toBase(0) !== 0 || !isRatio(there) || !isRatio(here))
		return bad('', `write by how many ${formatUnit(unit) || unit} it changes`);
	return good(here.fromBase(there.toBase(value)));
}

/** Nobody means a salinity of 1.025 PSU; but a change by 1 is one of 1 PSU. */
const isGravity = (value: number, quantity: Quantity, unit: string): boolean =>
	quantity === 'salinity' && unit === 'PSU' && value > 0.99 && value < 1.1;

/** Whether twice as many of a unit are twice as much. */
const isRatio = ({ toBase }: { toBase: (x: number) => number }): boolean =>
	Math.abs(toBase(2) - 2 * toBase(1)) <= 1e-12 * Math.abs(toBase(2));

/**
 * The unit that words name; undefined where they name none, null where they could name two.
 *
 * @example unitNamed('nitrate', 'ppm n') // → 'mg/L NO3-N'
 */
export function unitNamed(quantity: Quantity, words: string): string | null | undefined {
	const plain = words.trim().toLowerCase().replace(/[µμ]/g, 'u');
	return (
		UNITS[quantity].find((u) => u.name.toLowerCase() === plain)?.name ?? wordIn(WORDS[quantity] ?? {}, plain)
	);
}

/** Names of ours alone: every object has some from elsewhere. */
const wordIn = (words: Record<string, string | null>, word: string): string | null | undefined =>
	Object.hasOwn(words, word) ? words[word] : undefined;

/**
 * A number without a unit: a price, a count. Problems: none, more than one, words, thousands that could be a decimal.
 *
 * @example plainNumber('8,50').value // → 8.5
 */
export function plainNumber(text: string): Outcome<number> {
	const entry = parseEntry(text, () => true);
	if (!entry.ok) return entry;
	const { number, before, after } = entry.value;
	return number.kind === 'exact' && !before && !after ? good(number.value) : bad('', 'write one number');
}

/**
 * The same, or a percentage, as a number to draw and compute with while it is typed: NaN where nothing is understood, and one mark
 * before three digits is a decimal ("1.025").
 *
 * @example numberTyped('30 %') // → 30
 */
export function numberTyped(text: string): number {
	const entry = parseEntry(text.replace(/%\s*$/, ''));
	if (!entry.ok) return NaN;
	const { number, before, after } = entry.value;
	return number.kind === 'exact' && !before && !after ? number.value : NaN;
}

/** Whether a number of a unit is a level as water has it (or twice, or half); of water, powders and glass every number is. */
export function isPlausible(quantity: Quantity, value: number, unit: string): boolean {
	const its = parameterOf(quantity);
	if (!its) return true;
	const there = convert({ quantity, value, from: unit, to: its.unit });
	const [low, high] = its.plausible;
	return there.ok && there.value.value >= low / 2 && there.value.value <= 2 * high;
}

/** A number and the unit that was said, if one was. */
function typedAmount(
	text: string,
	quantity: Quantity,
	plausible: (value: number, said: string | undefined) => boolean
): Outcome<{ value: number; said?: string }> {
	const wordsOf = ({ before, after }: { before: string; after: string }) =>
		[before, after].filter(Boolean).join(' ');
	// The unit decides what is plausible: first the words, then the number.
	const first = parseEntry(text);
	const unit = first.ok ? (unitNamed(quantity, wordsOf(first.value)) ?? undefined) : undefined;
	const entry = parseEntry(text, (value) => plausible(value, unit));
	if (!entry.ok) return entry;
	const { number } = entry.value;
	if (number.kind !== 'exact') return bad('', 'write one number');
	const words = wordsOf(entry.value);
	if (words === '') return good({ value: number.value });
	const said = unitNamed(quantity, words);
	const known = UNITS[quantity].map((u) => u.name).join(', ');
	if (said === null) return bad('', `“${words}” could mean two units; write one of ${known}`);
	if (said === undefined) return bad('', `“${words}” is no unit here; write one of ${known}`);
	return good({ value: number.value, said });
}
