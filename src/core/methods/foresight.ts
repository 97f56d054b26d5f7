import { instrumentOf, tagged, type Foresight, type GivenReading, type Method } from '../instruments';

/**
 * Where to slow down in a syringe titration that is expected to turn where it turned last: `fast` is the share of what was
 * used then that may go in quickly. A half sample turned at half of what a full one takes: `sample` is that of the last reading, and what is
 * foreseen is for the method's own. Undefined where the last reading says nothing exact.
 */
export function slowDownAt(
	method: Method,
	last: GivenReading,
	fast: number,
	sample?: string
): Foresight | undefined {
	const times = method.samples?.find((s) => s.id === sample)?.times ?? 1;
	return instrumentOf(method).slowDown?.(method, tagged(method, last), fast * times);
}
