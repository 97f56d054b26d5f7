import { hasTrait, parameterOf, type Restlessness } from '../catalogue';
import { convert, isQuantity } from '../quantities';

/** Of the keeper's own parameters nothing is known: shares of their usual level. */
const SHARE: Restlessness = { level: 0.01, drift: 0.001, atFirst: 0.01, spread: 0.08, jump: 0.2 };

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
	const usual = parameterOf(parameter);
	const factor = usual && isQuantity(parameter) ? widthIn(parameter, usual.unit, unit, typical) : undefined;
	const [of, size] =
		usual && factor ? [usual.restlessness, factor] : [SHARE, Math.max(Math.abs(typical), 1e-6)];
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
	Math.max(hasTrait(parameter, 'poison') ? FORGOTTEN_POISON : FORGOTTEN, FORGOTTEN_GAPS * gap);

/** Whether it goes to nothing in the end, however much of it there is: a cycle's poisons. */
export const endsAtNothing = (parameter: string): boolean => hasTrait(parameter, 'poison');

/** Whether a tank in this phase usually has nothing of a parameter. */
export const usuallyNone = (parameter: string, phase: string | undefined): boolean =>
	hasTrait(parameter, 'poison') && (phase === 'young' || phase === 'settled');
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
