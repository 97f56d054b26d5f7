import { CALCULATIONS } from '../../core/calculations';
import { bad, flawOfText, type Outcome } from '../../core/base';
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

/** Escapes, and the few characters beyond them, by which text may come that cannot be kept. */
const DOUBTFUL = /\\[ubfnrt]|[\u007f-\u009f\u2028-\u202e\u2066-\u2069]/;

/** JSON text as data, or the sentence that says where it breaks. */
export function parseJson(text: string): Outcome<unknown> {
	try {
		const value = JSON.parse(text) as unknown;
		// Most text has none of these, and is not walked through.
		const flaw = DOUBTFUL.test(text) ? flawOfText(value) : undefined;
		return flaw === undefined ? { ok: true, value } : bad(flaw.path, flaw.message);
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
