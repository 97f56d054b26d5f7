import { CALCULATIONS } from '../../core/calculations';
import { bad, type Outcome } from '../../core/problems';
import { brokenTextIn } from '../../core/text';
import { parse } from './validation';

/** Loads what a calculation needs before `calculate` can run it; nothing for most, and for names unknown. */
export const readyFor = async (name: string): Promise<void> =>
	void (await CALCULATIONS.find((c) => c.name === name)?.prepare?.());

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

/** The escape of a surrogate, one half of a character. */
const HALVES = /\\u[dD][89a-fA-F]/;

/** JSON text as data, or the sentence that says where it breaks. */
export function parseJson(text: string): Outcome<unknown> {
	try {
		const value = JSON.parse(text) as unknown;
		// Only an escape can bring half a character: most text has none, and is not walked through.
		const broken = HALVES.test(text) ? brokenTextIn(value) : undefined;
		return broken === undefined
			? { ok: true, value }
			: bad(broken, 'holds half a character; write it again, or leave out the emoji at its end');
	} catch (error) {
		// Where, and not what: the engine's own sentence repeats a piece of what was sent.
		const at = /position (\d+)/.exec((error as Error).message)?.[1];
		const end = text.trim() === '' || /end of JSON/.test((error as Error).message);
		return bad(
			'',
			`is not JSON: ${end ? 'it ends too early' : at ? `it breaks at character ${at}` : 'it breaks off'}`
		);
	}
}
