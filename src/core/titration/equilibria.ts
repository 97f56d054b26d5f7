import { dissociation } from '../seawater';

/** A root of what falls as x grows, by halving: exact to the last digits in fifty steps. */
function fallsToNothing(of: (x: number) => number, low: number, high: number): number {
	for (let i = 0; i < HALVINGS; i++) {
		const x = (low + high) / 2;
		if (of(x) > 0) low = x;
		else high = x;
	}
	return (low + high) / 2;
}
const HALVINGS = 46;

/** A sample of sea water before anything is run into it, mol/kg, with what its acids and bases go by. */
export interface Base {
	alkalinity: number;
	dic: number;
	boron: number;
	k1: number;
	k2: number;
	kb: number;
	kw: number;
}

/**
 * pH (total scale) of a sample whose dissolved things are thinned to `share`, and which has taken up `acid` mol/kg of strong acid: what its
 * bases hold is what is left of its alkalinity (Dickson, Sabine and Christian 2007, guide 2; borate and carbonate). Constants stay those of the sample.
 *
 * @example phWith({ alkalinity: 0.0025, dic: 0.0022, ...dissociation(35, 25) }, 1, 0.0025) // → 4.258
 */
export function phWith(
	{ alkalinity, dic, boron, k1, k2, kb, kw }: Base,
	share: number,
	acid: number
): number {
	const left = alkalinity * share - acid;
	const held = (ph: number) => {
		const h = 10 ** -ph;
		const carbonate = (dic * share * (k1 * h + 2 * k1 * k2)) / (h * h + k1 * h + k1 * k2);
		return carbonate + (boron * share * kb) / (kb + h) + kw / h - h;
	};
	return fallsToNothing((ph) => left - held(ph), 0, 13);
}

/** A metal that a complexing agent takes one to one: mol/L, and decimal logarithms of its conditional constants with agent and indicator. */
export interface Metal {
	total: number;
	agent: number;
	dye: number;
}

/** How a solution of metals, agent and indicator stands: free concentrations, mol/L, and the share of the indicator that is bound to metal. */
export interface Complexes {
	freeMetal: number;
	freeAgent: number;
	boundDye: number;
}

/**
 * Metals, a complexing agent and a metal indicator at equilibrium, each pair one to one (Ringbom 1963): mass balances of agent and
 * indicator, both by halving. `freeMetal` is that of the first metal.
 *
 * @example complexes([{ total: 0.01, agent: 10.6, dye: 5.85 }], 0.01, 1e-6).freeMetal * 1e6 // → 0.4024
 */
export function complexes(metals: Metal[], agent: number, dye: number): Complexes {
	const known = metals.map((m) => ({ total: m.total, ka: 10 ** m.agent, kd: 10 ** m.dye }));
	const free = (m: (typeof known)[number], a: number, d: number) => m.total / (1 + m.ka * a + m.kd * d);
	const freeDye = (a: number) =>
		fallsToNothing(
			(d) => dye - d - known.reduce((sum, m) => sum + m.kd * d * free(m, a, d), 0),
			0,
			dye || 1e-30
		);
	// Logarithms: what is free goes over a dozen powers of ten.
	const logFree = fallsToNothing(
		(log) => {
			const a = 10 ** log;
			const d = freeDye(a);
			return agent - a - known.reduce((sum, m) => sum + m.ka * a * free(m, a, d), 0);
		},
		-16,
		Math.log10(Math.max(agent, 1e-15))
	);
	const freeAgent = 10 ** logFree;
	const d = freeDye(freeAgent);
	return {
		freeMetal: known[0] ? free(known[0], freeAgent, d) : 0,
		freeAgent,
		boundDye: dye > 0 ? 1 - d / dye : 0
	};
}

export const baseOf = (alkalinity: number, dic: number, s: number, t: number): Base => ({
	alkalinity,
	dic,
	...dissociation(s, t)
});
