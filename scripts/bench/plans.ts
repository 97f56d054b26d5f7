import { correct, dose, loadSolver, type CorrectRequest, type Supplement } from '../../src/core/adjust';
import { SCHOOLS } from '../../src/core/targets';
import type { Row } from './row';

const solution = (salt: string, gramsPerL: number): Supplement => ({
	format: 'tevrik.supplement/1',
	id: salt,
	name: salt,
	kind: 'solution',
	composition: { recipe: { salt, gramsPerL } }
});
/** Eight levels that are all out of their bands, with what brings each: more than any keeper has. */
const LEVELS: [
	parameter: string,
	unit: string,
	now: number,
	error: number,
	use: number,
	lower: number,
	upper: number
][] = [
	['alkalinity', 'dKH', 7, 0.12, 0.3, 8, 9.5],
	['calcium', 'mg/L', 395, 6, 2, 410, 460],
	['magnesium', 'mg/L', 1180, 15, 1, 1250, 1400],
	['potassium', 'mg/L', 350, 8, 0.5, 380, 420],
	['nitrate', 'mg/L NO3', 0.5, 0.2, 0.1, 2, 10],
	['phosphate', 'mg/L PO4', 0.01, 0.005, 0.002, 0.03, 0.1],
	['strontium', 'mg/L', 5, 0.4, 0.02, 7, 9],
	['salinity', 'PSU', 34.8, 0.3, 0, 34, 36]
];
const POURED = [
	solution('NaHCO3', 80),
	solution('CaCl2.2H2O', 150),
	solution('MgCl2.6H2O', 300),
	solution('KCl', 100),
	solution('NaNO3', 20),
	solution('NaH2PO4', 2),
	solution('SrCl2.6H2O', 20),
	solution('Na2CO3', 100)
];

function requestOf(days: number, levels: number, changes: boolean): CorrectRequest {
	return {
		now: '2026-05-06T20:00:00Z',
		days,
		water: { volumeL: { value: 200, standardUncertainty: 15 }, salinity: 35, temperatureC: 25 },
		parameters: LEVELS.slice(0, levels).map(
			([parameter, unit, mean, standardDeviation, use, lower, upper]) => {
				const healthy = SCHOOLS[0]?.targets[parameter]?.healthyPerDay ?? (upper - lower) / 4;
				return {
					parameter,
					unit,
					now: { mean, standardDeviation },
					usePerDay: { mean: use, standardDeviation: use / 10 + 1e-4 },
					band: { lower, upper },
					healthyPerDay: { up: healthy, down: healthy }
				};
			}
		),
		dosing: [],
		supplements: POURED.slice(0, levels),
		...(changes
			? {
					change: {
						water: {
							alkalinity: 8,
							calcium: 420,
							magnesium: 1300,
							potassium: 390,
							nitrate: 0,
							strontium: 8,
							salinity: 35
						},
						largestFraction: 0.2,
						everyDays: 7
					}
				}
			: {}),
		prefer: 'soonest'
	};
}

/** A plan of the largest size that is asked for and of a usual one, beside how often a single dose is computed in that time. */
export async function plans(): Promise<Row[]> {
	const solver = await loadSolver();
	const one = () =>
		dose({
			supplement: solution('NaHCO3', 80),
			volume: { value: 200, standardUncertainty: 15 },
			change: { parameter: 'alkalinity', value: 0.5, unit: 'dKH' }
		});
	const doses = millisecondsOf(one, 200);
	return [
		['a plan of 14 days, 4 levels, 4 supplements', requestOf(14, 4, false)],
		['the same with water changes', requestOf(14, 4, true)],
		['a plan of 40 days, 8 levels, 8 supplements', requestOf(40, 8, false)],
		['the same with water changes', requestOf(40, 8, true)],
		['the same, fewest pours', { ...requestOf(40, 8, true), prefer: 'fewest' }]
	].map(([what, request]) => {
		const ms = millisecondsOf(() => correct(request as CorrectRequest, solver), 3);
		const made = correct(request as CorrectRequest, solver);
		const proved = made.ok && made.value.proved ? 'proved the best' : 'the best found in its time';
		return {
			what: String(what),
			measured: `${ms.toFixed(0)} ms`,
			against: `${(ms / doses).toFixed(0)} doses computed one by one; ${proved}; goal 1000 ms`
		};
	});
}

/** The middle of several runs after one that warms up. */
function millisecondsOf(what: () => unknown, runs: number): number {
	what();
	const times = Array.from({ length: runs }, () => {
		const began = performance.now();
		what();
		return performance.now() - began;
	}).sort((a, b) => a - b);
	return times[Math.floor(runs / 2)] ?? NaN;
}
