import { parameterOf } from '../catalogue';
import { COVERAGE_95, normal, uniform } from '../statistics';

/** The lab that ships: a stand-in for one that a sample is posted to. */
export const SIMULATED_LAB = 'Boathouse Lab (simulated)';
/** Half of a 95 % interval of the simulated lab, as a share of what it finds. */
const HALF = 0.02;

/**
 * The sheet a simulated lab sends back: what the water had, with an error of its own, the same for the same sample. A stand-in for a
 * service that lies outside; `levels` in own units, `seed` a whole number.
 *
 * @example simulatedLabSheet({ lab: 'Boathouse Lab', sample: 'B1', drawn: '2026-05-06T19:00:00Z', levels: { calcium: 421 }, seed: 7 }).split('\n')[0] // → 'lab,Boathouse Lab'
 */
export function simulatedLabSheet({
	lab,
	sample,
	drawn,
	levels,
	seed
}: {
	lab: string;
	sample: string;
	drawn: string;
	levels: Record<string, number>;
	seed: number;
}): string {
	const noise = normal(uniform(seed));
	const lines = Object.entries(levels).map(([parameter, level]) => {
		const found = Math.max(0, level * (1 + (HALF / COVERAGE_95) * noise()));
		const { unit, title } = parameterOf(parameter) ?? { unit: '', title: parameter };
		return [title, found.toPrecision(4), unit, `${100 * HALF} %`].join(',');
	});
	return [
		`lab,${lab}`,
		`sample,${sample}`,
		`drawn,${drawn}`,
		'',
		'parameter,result,unit,±',
		...lines,
		''
	].join('\n');
}
