import { bad, good, type Outcome } from '../base';
import type { ConvertRequest, ConvertResult } from './schema';
import { QUANTITIES, UNITS, isQuantity, possibleRange, unitOf } from './units';

/**
 * A value of one quantity in another of its units. Ratios of molar masses (IUPAC 2021), PSS-78 and EOS-80 for
 * salinity. Problems: unknown quantity or unit, a value no water can have (below zero; salinity over 50 PSU).
 *
 * @example convert({ quantity: 'alkalinity', value: 145, from: 'ppm CaCO3', to: 'dKH' }).value.value // → 8.124
 */
export function convert({ quantity, value, from, to }: ConvertRequest): Outcome<ConvertResult> {
	if (!isQuantity(quantity)) return bad('/quantity', `is not known; known are ${QUANTITIES.join(', ')}`);
	const names = UNITS[quantity].map((u) => u.name).join(', ');
	const source = unitOf(quantity, from);
	const target = unitOf(quantity, to);
	if (!source) return bad('/from', `is not a unit of ${quantity}; known are ${names}`);
	if (!target) return bad('/to', `is not a unit of ${quantity}; known are ${names}`);
	const [low, high] = possibleRange(quantity);
	const lowHere = source.fromBase(low);
	const highHere = source.fromBase(high);
	if (value < lowHere - Math.abs(lowHere) * 1e-12)
		return bad('/value', `must be at least ${short(lowHere)} ${from}`);
	if (!(value <= highHere * (1 + 1e-12))) return bad('/value', `must be at most ${short(highHere)} ${from}`);
	if (from === to) return good({ value, unit: to });
	return good({ value: target.fromBase(source.toBase(value)), unit: to });
}

const short = (x: number) => String(Number(x.toPrecision(5)));
