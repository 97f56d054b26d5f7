import type { Problem } from '../base';
import { checkUnit, instrumentOf, type Method } from '../instruments';

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
	instrumentOf(method).check(method, say);
	return problems;
}
