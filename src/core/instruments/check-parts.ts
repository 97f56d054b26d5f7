import { nth } from '../base';
import { UNITS, isQuantity, unitOf } from '../quantities';

/** Says what is wrong with a method, at a path within it. */
export type Say = (path: string, message: string) => void;

/** A parameter of the keeper's own may have any unit; a known one only its own. */
export function checkUnit(parameter: string, unit: string, path: string, say: Say): void {
	if (isQuantity(parameter) && !unitOf(parameter, unit))
		say(path, `is not a unit of ${parameter}; known are ${UNITS[parameter].map((u) => u.name).join(', ')}`);
}

/** A chart leads one way. */
export function checkChart(points: [number, number][], say: Say): void {
	const sorted = points.map((p, i) => ({ p, i })).sort((a, b) => a.p[0] - b.p[0]);
	const rising = sorted.at(-1)!.p[1] >= nth(sorted, 0).p[1];
	for (let k = 1; k < sorted.length; k++) {
		const [x0, y0] = nth(sorted, k - 1).p;
		const [x1, y1] = nth(sorted, k).p;
		const at = `/scale/points/${nth(sorted, k).i}`;
		if (x0 === x1) say(at, `the reading ${x1} is there twice`);
		else if (rising ? y1 < y0 : y1 > y0)
			say(
				at,
				`the values ${rising ? 'rise' : 'fall'} along the chart, but ${y1} at ${x1} goes the other way`
			);
	}
}

/** Values of patches rise. */
export function checkRising(values: number[], path: string, say: Say): void {
	values.forEach((value, i) => {
		if (i > 0 && !(value > nth(values, i - 1)))
			say(`${path}/${i}`, 'must be higher than the shade before it');
	});
}
