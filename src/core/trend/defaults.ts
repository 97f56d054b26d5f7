import { convert, isQuantity } from '../quantities';

/** How restless a parameter's water is: spread of the level, and of its daily drift, that one day adds. */
export interface Restlessness {
	/** Unit of the parameter, per square root of a day. */
	level: number;
	/** The same a day, per square root of a day. */
	drift: number;
	/** How fast it may run at first, standard deviation a day. */
	atFirst: number;
	/** How far a tank's level is found from its own usual one over months: standard deviation. */
	spread: number;
	/** How far it jumps when something happens to it (a wrong pour, a top-up that ran, a heater): standard deviation. */
	jump: number;
}

/**
 * What is usual, in the parameter's own unit; where there are few readings the estimate leans on it. From how far a reef
 * tank's level strays between two days when nothing is changed, how its use grows and shrinks over weeks, and what a day's
 * mishap does: a litre of top-up too much, a pour for the wrong volume, a heater that stays on.
 */
const USUAL: Record<string, Restlessness & { unit: string }> = {
	alkalinity: { unit: 'dKH', level: 0.06, drift: 0.012, atFirst: 0.25, spread: 0.6, jump: 1.5 },
	calcium: { unit: 'mg/L', level: 1.2, drift: 0.1, atFirst: 2.5, spread: 12, jump: 40 },
	magnesium: { unit: 'mg/L', level: 2.5, drift: 0.15, atFirst: 3, spread: 30, jump: 90 },
	potassium: { unit: 'mg/L', level: 1.5, drift: 0.08, atFirst: 2, spread: 12, jump: 30 },
	nitrate: { unit: 'mg/L NO3', level: 0.35, drift: 0.03, atFirst: 0.5, spread: 3, jump: 8 },
	phosphate: { unit: 'mg/L PO4', level: 0.005, drift: 0.0004, atFirst: 0.004, spread: 0.03, jump: 0.08 },
	ammonia: { unit: 'mg/L NH4', level: 0.05, drift: 0.01, atFirst: 0.1, spread: 0.05, jump: 0.5 },
	nitrite: { unit: 'mg/L NO2', level: 0.05, drift: 0.01, atFirst: 0.1, spread: 0.05, jump: 0.5 },
	salinity: { unit: 'PSU', level: 0.1, drift: 0.005, atFirst: 0.1, spread: 0.7, jump: 2.5 },
	ph: { unit: 'pH', level: 0.04, drift: 0.002, atFirst: 0.02, spread: 0.12, jump: 0.3 },
	temperature: { unit: 'C', level: 0.2, drift: 0.005, atFirst: 0.1, spread: 0.7, jump: 2.5 },
	hardness: { unit: 'dGH', level: 2, drift: 0.1, atFirst: 2, spread: 15, jump: 40 },
	iodine: { unit: 'mg/L', level: 0.003, drift: 0.0003, atFirst: 0.004, spread: 0.015, jump: 0.02 },
	iron: { unit: 'mg/L', level: 0.004, drift: 0.0003, atFirst: 0.004, spread: 0.01, jump: 0.02 },
	strontium: { unit: 'mg/L', level: 0.15, drift: 0.01, atFirst: 0.15, spread: 0.8, jump: 2 },
	silicate: { unit: 'mg/L', level: 0.05, drift: 0.004, atFirst: 0.05, spread: 0.2, jump: 0.4 }
};

/** Of the keeper's own parameters nothing is known: shares of their usual level. */
const SHARE: Restlessness = { level: 0.01, drift: 0.001, atFirst: 0.01, spread: 0.08, jump: 0.2 };

/** What a cycled tank has of a poison: nothing. Elsewhere a tank's own usual level is all that is known. */
const NONE_LEFT = ['ammonia', 'nitrite'];
/** After so many days without a test what is usual counts for more than what was seen; poisons change faster. */
const FORGOTTEN = 60;
const FORGOTTEN_POISON = 15;
/** Where tests are rarer than that, after so many times the usual days between two. */
const FORGOTTEN_GAPS = 2;

/**
 * What is usual for a parameter in a unit; `typical` is a level to take shares of where nothing is known (a size, if it is near 0).
 *
 * @example usualRestlessness('alkalinity', 'dKH', 8.3) // → { level: 0.06, drift: 0.012, atFirst: 0.25, spread: 0.6, jump: 1.5 }
 */
export function usualRestlessness(parameter: string, unit: string, typical: number): Restlessness {
	const usual = USUAL[parameter];
	const factor = usual && isQuantity(parameter) ? widthIn(parameter, usual.unit, unit, typical) : undefined;
	const [of, size] = usual && factor ? [usual, factor] : [SHARE, Math.max(Math.abs(typical), 1e-6)];
	return {
		level: of.level * size,
		drift: of.drift * size,
		atFirst: of.atFirst * size,
		spread: of.spread * size,
		jump: of.jump * size
	};
}

/** After how many days without a test, where `gap` is usual between two. */
export const forgottenAfter = (parameter: string, gap: number): number =>
	Math.max(NONE_LEFT.includes(parameter) ? FORGOTTEN_POISON : FORGOTTEN, FORGOTTEN_GAPS * gap);

/** Whether it goes to nothing in the end, however much of it there is: a cycle's poisons. */
export const endsAtNothing = (parameter: string): boolean => NONE_LEFT.includes(parameter);

/** Whether a tank in this phase usually has nothing of a parameter. */
export const usuallyNone = (parameter: string, phase: string | undefined): boolean =>
	NONE_LEFT.includes(parameter) && (phase === 'young' || phase === 'settled');
/** How wide one step of a unit is in another, near a level given in the latter. */
function widthIn(
	parameter: Parameters<typeof convert>[0]['quantity'],
	from: string,
	to: string,
	near: number
): number | undefined {
	if (from === to) return 1;
	const there = convert({ quantity: parameter, value: near, from: to, to: from });
	if (!there.ok) return undefined;
	const [a, b] = [there.value.value, there.value.value + 1].map((value) =>
		convert({ quantity: parameter, value, from, to })
	);
	return a?.ok && b?.ok ? Math.abs(b.value.value - a.value.value) : undefined;
}
