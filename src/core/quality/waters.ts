import { bad, good, type Outcome } from '../problems';
import { density, parameterOf, valueIn } from '../quantities';
import { normalBelow } from '../statistics';
import type { WatersRequest, WatersResult } from './schema';

/**
 * Reference sea water at 35 PSU, mg/kg (Millero et al. 2008, Deep-Sea Res. I 55, 50, table 4; strontium there too), and its alkalinity,
 * 2.300 mmol/kg for standard sea water (ibid.).
 */
const SEA: Record<string, number> = { calcium: 412, magnesium: 1284, potassium: 399, strontium: 7.9 };
const SEA_ALKALINITY = 2.3;
const STANDARD = 35;
const TEMPERATURE = 25;

/**
 * One water beside another, level by level, with the chance that their errors alone make as much; or beside reference sea water thinned or thickened
 * to its own salinity. In own units. Problems: nothing that both have.
 *
 * @example waters({ a: { calcium: { value: 400, standardUncertainty: 10 } } }).value.differences.calcium.b // → 421.6
 */
export function waters({ a, b }: WatersRequest): Outcome<WatersResult> {
	const salinity = a['salinity']?.value ?? STANDARD;
	const other = b ?? seaAt(salinity, a['salinity']?.standardUncertainty ?? 0);
	const shared = Object.keys(a).filter((p) => other[p] !== undefined && parameterOf(p));
	if (!shared.length) return bad(b ? '/b' : '/a', 'has nothing that the other water is known for');
	return good({
		against: b ? 'other' : 'sea water',
		salinity,
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

/** Every dissolved thing goes with salinity, and its error with salinity's. */
function seaAt(salinity: number, error: number): NonNullable<WatersRequest['b']> {
	const kgPerL = density(salinity, TEMPERATURE) / 1000;
	const share = (salinity / STANDARD) * kgPerL;
	const of = (value: number) => ({
		value,
		standardUncertainty: salinity > 0 ? (value * error) / salinity : 0
	});
	return {
		...Object.fromEntries(Object.entries(SEA).map(([p, mgPerKg]) => [p, of(mgPerKg * share)])),
		alkalinity: of(valueIn('alkalinity', SEA_ALKALINITY * share, 'meq/L', 'dKH'))
	};
}
