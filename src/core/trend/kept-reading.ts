import type { Qualifier } from '../methods';
import type { TrendReading } from './schema';

/** A reading as it is kept: what was read, or bounds of it, in the parameter's own unit; the moment in ms. */
export interface KeptReading {
	at: number;
	qualifier: Qualifier;
	value: number | null;
	standardUncertainty: number | null;
	repeatability: number | null;
	low: number | null;
	high: number | null;
	methodId: string;
}

/**
 * What an estimate takes of a kept reading: a value, a bound or an interval; of its error, what stays with the kit apart.
 *
 * @example asTrendReading({ at: 0, qualifier: '<', value: null, standardUncertainty: null, repeatability: null, low: 0, high: 0.2, methodId: 'a' }).below // → 0.2
 */
export function asTrendReading(r: KeptReading): TrendReading {
	const at = new Date(r.at).toISOString();
	const { low, high, methodId: method, standardUncertainty: u } = r;
	const error = u
		? { standardUncertainty: u, trueness: Math.sqrt(Math.max(0, u ** 2 - (r.repeatability ?? 0) ** 2)) }
		: {};
	// Below nothing is nothing.
	if (r.qualifier === '<' && high) return { at, below: high, ...error, method };
	if (r.qualifier === '>') return { at, above: low ?? 0, ...error, method };
	if (r.qualifier === '=' && r.value !== null && u)
		return { at, value: r.value, ...error, standardUncertainty: u, method };
	return { at, interval: [low ?? r.value ?? 0, high ?? r.value ?? 0], ...error, method };
}
