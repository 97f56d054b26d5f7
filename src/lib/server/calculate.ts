import { CALCULATIONS } from '../../core/calculations';
import { bad, type Outcome } from '../../core/problems';
import { parse } from './validation';

/** One calculation by name on data from outside: checked, then run. Problems for an unknown name or bad data. */
export function calculate(name: string, data: unknown): Outcome<unknown> {
	const calculation = CALCULATIONS.find((c) => c.name === name);
	if (!calculation)
		return bad(
			'',
			`there is no calculation “${name}”; there are ${CALCULATIONS.map((c) => c.name).join(', ')}`
		);
	const request = parse(calculation.request, data);
	return request.ok ? calculation.run(request.value as never) : request;
}

/** JSON text as data, or the sentence that says where it breaks. */
export function parseJson(text: string): Outcome<unknown> {
	try {
		return { ok: true, value: JSON.parse(text) as unknown };
	} catch (error) {
		return bad('', `is not JSON: ${(error as Error).message}`);
	}
}
