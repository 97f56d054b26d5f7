import type { Method } from './profile';
import type { RawReading } from './schema';

/** How far a titration may go quickly, mL of the first filling, in the kit's convention. */
export interface Foresight {
	readAs: 'left' | 'used';
	/** Where the plunger stands when it is time to slow down. */
	slowAt: number;
	/** Whole syringes given quickly before that filling. */
	fullFirst: number;
}

/**
 * Where to slow down in a syringe titration that is expected to turn where it turned last: `fast` is the share of what was
 * used then that may go in quickly. A half sample turned at half of what a full one takes: `sample` is that of the last reading, and what is
 * foreseen is for the method's own. Undefined where the last reading says nothing exact.
 */
export function slowDownAt(
	method: Method,
	last: RawReading,
	fast: number,
	sample?: string
): Foresight | undefined {
	if (method.reads !== 'syringe') return undefined;
	const { fillMl, readAs } = method.syringe;
	const seen = 'left' in last ? last.left : 'used' in last ? last.used : undefined;
	if (typeof seen !== 'number') return undefined;
	const refills = ('refills' in last && last.refills) || 0;
	const times = method.samples?.find((s) => s.id === sample)?.times ?? 1;
	const used = times * (refills * fillMl + ('left' in last ? fillMl - seen : seen));
	const quickly = fast * used;
	const fullFirst = Math.floor(quickly / fillMl);
	const rest = quickly - fullFirst * fillMl;
	return { readAs, fullFirst, slowAt: readAs === 'left' ? fillMl - rest : rest };
}
