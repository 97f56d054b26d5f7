import { nth, type Problem } from '../base';
import { UNITS, isQuantity, unitOf } from '../quantities';
import type { Method } from './profile';

/**
 * What a schema cannot say about a method: units that belong to the parameter, charts that lead one way, shades in
 * order. An empty list means the method can be read. Paths are relative to the method.
 */
export function checkMethod(method: Method): Problem[] {
	const problems: Problem[] = [];
	const say = (path: string, message: string) => problems.push({ path, message });

	checkUnit(method.parameter, method.unit, '/unit', say);
	const ids = method.samples?.map((s) => s.id) ?? [];
	ids.forEach((id, i) => {
		if (ids.indexOf(id) < i) say(`/samples/${i}/id`, `“${id}” is there twice; give each sample its own name`);
	});
	if (method.takeAway?.parameter === method.parameter)
		say('/takeAway/parameter', 'cannot be the parameter this method measures');

	if (method.reads === 'syringe' && method.syringe.graduationMl > method.syringe.fillMl)
		say('/syringe/graduationMl', `cannot be more than the syringe's ${method.syringe.fillMl} mL`);
	if ((method.reads === 'syringe' || method.reads === 'drops') && method.scale.kind === 'table') {
		checkChart(method.scale.points, say);
		if (method.reads === 'syringe' && method.scale.by === undefined)
			say('/scale/by', 'must say whether the chart goes by what is "left" or what was "used"');
	}
	if (method.reads === 'shades') {
		method.shades.forEach((shade, i) => {
			if (i > 0 && !(shade > nth(method.shades, i - 1)))
				say(`/shades/${i}`, 'must be higher than the shade before it');
			if (shade < 0) say(`/shades/${i}`, 'cannot be below 0');
		});
		const patches = method.shades.length;
		if (method.colours && method.colours.length !== patches)
			say('/colours', `must name one colour for each of the ${patches} patches`);
		method.columns?.forEach((column, c) => {
			if (column.unit) checkUnit(method.parameter, column.unit, `/columns/${c}/unit`, say);
			if (method.columns!.findIndex((other) => other.name === column.name) < c)
				say(`/columns/${c}/name`, `“${column.name}” is there twice`);
			if (column.shades.length !== patches)
				say(`/columns/${c}/shades`, `must have one value for each of the ${patches} patches`);
			column.shades.forEach((shade, i) => {
				if (i > 0 && !(shade > nth(column.shades, i - 1)))
					say(`/columns/${c}/shades/${i}`, 'must be higher than the shade before it');
			});
		});
	}
	if (method.reads === 'display' || method.reads === 'scale-line') {
		checkUnit(method.parameter, method.display.unit, '/display/unit', say);
		const range = method.display.range;
		if (range && !(range[0] < range[1])) say('/display/range', 'must name the lower end first');
	}
	return problems;
}

type Say = (path: string, message: string) => void;

/** A parameter of the keeper's own may have any unit; a known one only its own. */
function checkUnit(parameter: string, unit: string, path: string, say: Say): void {
	if (isQuantity(parameter) && !unitOf(parameter, unit))
		say(path, `is not a unit of ${parameter}; known are ${UNITS[parameter].map((u) => u.name).join(', ')}`);
}

function checkChart(points: [number, number][], say: Say): void {
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
