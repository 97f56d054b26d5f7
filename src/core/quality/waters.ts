import { bad, good, type Outcome } from '../base';
import { parameterOf } from '../catalogue';
import { SEA_PSU, seaAt } from '../seawater';
import { normalBelow } from '../statistics';
import type { WatersRequest, WatersResult } from './schema';

/**
 * One water beside another, level by level, with the chance that their errors alone make as much; or beside reference sea water thinned or thickened
 * to its own salinity. In own units. Problems: nothing that both have.
 *
 * @example waters({ a: { calcium: { value: 400, standardUncertainty: 10 } } }).value.differences.calcium.b // → 421.6
 */
export function waters({ a, b }: WatersRequest): Outcome<WatersResult> {
	const salinity = a['salinity']?.value ?? SEA_PSU;
	const other = b ?? likeTheSea(salinity, a['salinity']?.standardUncertainty ?? 0);
	const shared = Object.keys(a).filter((p) => other[p] !== undefined && parameterOf(p));
	if (!shared.length) return bad(b ? '/b' : '/a', 'has nothing that the other water is known for');
	return good({
		against: b ? 'other' : 'sea water',
		salinity,
		assumed: a['salinity'] === undefined,
		differences: Object.fromEntries(
			shared.flatMap((parameter) => {
				const [one, two] = [a[parameter], other[parameter]];
				if (!one || !two) return [];
				const value = one.value - two.value;
				const standardUncertainty = Math.hypot(one.standardUncertainty, two.standardUncertainty);
				const chance =
					standardUncertainty > 0
						? 2 * normalBelow(-Math.abs(value) / standardUncertainty)
						: Number(value === 0);
				return [[parameter, { a: one.value, b: two.value, value, standardUncertainty, chance }]];
			})
		)
	});
}

/** Reference sea water of a salinity, each level with salinity's error. */
const likeTheSea = (salinity: number, error: number): NonNullable<WatersRequest['b']> =>
	Object.fromEntries(
		Object.entries(seaAt(salinity)).map(([parameter, value]) => [
			parameter,
			{ value, standardUncertainty: salinity > 0 ? (value * error) / salinity : 0 }
		])
	);
