import { bad, good, type Outcome } from '../problems';
import { UNITS, convert, formatUnit, parseEntry, unitOf, type Quantity } from '../quantities';
import { AMOUNT_WORDS, UNIT_WORDS } from './words';

const WORDS: Partial<Record<Quantity, Record<string, string | null>>> = { ...UNIT_WORDS, ...AMOUNT_WORDS };

/**
 * A number with or without a unit behind it, in `unit`: "50 gal" in L, "120 ppm" in dKH, "78 F" in C. Without one it is in `unit`, but
 * for a salinity that can only be a specific gravity.
 * Problems: no number, a unit that is none of the quantity's, one that could mean two.
 *
 * @example amountIn('50 gal', 'volume', 'L').value // → 189.3
 */
export function amountIn(text: string, quantity: Quantity, unit: string): Outcome<number> {
	const typed = typedAmount(text, quantity, unit);
	if (!typed.ok) return typed;
	const { value, from } = typed.value;
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
	const typed = typedAmount(text.replace(/^\s*\+/, ''), quantity, unit);
	if (!typed.ok) return typed;
	const { value, from } = typed.value;
	if (from === unit) return good(value);
	const [there, here] = [unitOf(quantity, from), unitOf(quantity, unit)];
	if (!there || !here || there.toBase(0) !== 0 || here.toBase(0) !== 0 || !isRatio(there) || !isRatio(here))
		return bad('', `write by how many ${formatUnit(unit) || unit} it changes`);
	return good(here.fromBase(there.toBase(value)));
}

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
	return UNITS[quantity].find((u) => u.name.toLowerCase() === plain)?.name ?? WORDS[quantity]?.[plain];
}

function typedAmount(
	text: string,
	quantity: Quantity,
	unit: string
): Outcome<{ value: number; from: string }> {
	const entry = parseEntry(text);
	if (!entry.ok) return entry;
	const { number, before, after } = entry.value;
	if (number.kind !== 'exact') return bad('', 'write one number');
	const words = [before, after].filter(Boolean).join(' ');
	// Nobody means a salinity of 1.025 PSU.
	const isGravity = quantity === 'salinity' && number.value > 0.99 && number.value < 1.1;
	if (words === '') return good({ value: number.value, from: isGravity ? 'SG 25/25' : unit });
	const from = unitNamed(quantity, words);
	const known = UNITS[quantity].map((u) => u.name).join(', ');
	if (from === null) return bad('', `“${words}” could mean two units; write one of ${known}`);
	if (!from || !unitOf(quantity, from)) return bad('', `“${words}” is no unit here; write one of ${known}`);
	return good({ value: number.value, from });
}
