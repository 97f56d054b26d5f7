import { bad, good, type Outcome } from '../../base';
import { parseEntry } from '../../quantities';
import type { SyringeReading } from './schema';

/**
 * A syringe reading as typed: "0,48", "used .52", "0.46-0.48 left". A bare number is what the keeper reads, `readAs`.
 * Problems: no number, a bound (a plunger stands somewhere), words that say neither left nor used.
 *
 * @example parseSyringeEntry('0,48 ml', 'left').value // → { reads: 'syringe', left: 0.48 }
 */
export function parseSyringeEntry(text: string, readAs: 'left' | 'used'): Outcome<SyringeReading> {
	const parsed = parseEntry(text);
	if (!parsed.ok) return parsed;
	const { number, before, after } = parsed.value;
	const words = `${before} ${after}`.split(/\s+/).filter((w) => w && w !== 'ml' && w !== 'in' && w !== 'is');
	const said = words.map((w) =>
		/^(left|remaining|l)$/.test(w) ? 'left' : /^(used|gone|u)$/.test(w) ? 'used' : null
	);
	const unknown = words.find((_, i) => said[i] === null);
	if (unknown) return bad('', `“${unknown}” is not understood here; write left or used, or the number alone`);
	if (said.includes('left') && said.includes('used')) return bad('', 'write left or used, not both');
	if (number.kind === 'below' || number.kind === 'above')
		return bad('', 'a plunger stands at a line or between two: write 0.48 or 0.46-0.48');
	const seen: number | [number, number] = number.kind === 'exact' ? number.value : [number.low, number.high];
	return good(
		(said[0] ?? readAs) === 'left' ? { reads: 'syringe', left: seen } : { reads: 'syringe', used: seen }
	);
}
