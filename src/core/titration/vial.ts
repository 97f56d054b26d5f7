import { PAPER, through, type Light, type Spectrum } from '../photograph';
import { ATOM, CAO_PER_DEGREE, MOLECULE, density } from '../catalogue';
import { MEQ_PER_DKH, carbonateSystem } from '../seawater';
import { uniform } from '../statistics';
import { baseOf, complexes, phWith, type Base, type Metal } from './equilibria';
import { CONSTANTS, DYE_MOLAR, INDICATORS, turnedAt, type Indicator, type Titrated } from './indicators';
import { seen, type Rgb } from './sight';

/** A water as it comes into the vial: mg/L, dKH or dGH in the parameters' own units; PSU, °C, pH on the total scale. */
export interface VialWater {
	alkalinity: number;
	calcium: number;
	magnesium: number;
	potassium: number;
	hardness: number;
	salinity: number;
	temperatureC: number;
	ph: number;
}
/** Natural sea water, for whatever is not said. */
export const SEA: VialWater = {
	alkalinity: 6.6,
	calcium: 412,
	magnesium: 1285,
	potassium: 399,
	hardness: 8,
	salinity: 35,
	temperatureC: 25,
	ph: 8.05
};

/** What stands in the vial before the first drop. */
export interface Recipe {
	analyte: Titrated;
	water: VialWater;
	sampleMl: number;
	/** Of the titrant, mol/L. */
	molar: number;
	indicator: Indicator;
	/** Potassium: precipitant that was put in, mmol; what potassium leaves of it is titrated. */
	precipitantMmol?: number;
}

/** A vial at a moment. Nothing in it is by chance. */
export interface Vial {
	/** mL poured in so far. */
	ml: number;
	/** Titrant still around where it fell, mmol beyond its even share. */
	plume: number;
	/** Carbon dioxide that has left, mol/kg. */
	lost: number;
	/** Metal that has come back out of the precipitate, as a share of what it held. */
	released: number;
	seconds: number;
}

/** The water where a drop falls: some times its own volume, as a share of the vial. Every drop turns it; only swirling says whether all has. */
const PLUME = 0.012;
/** How quickly it mixes into the rest, 1/s: standing, and swirled by hand as one does (half in under half a second). */
const MIXES = { standing: 0.03, swirled: 1.7 };
/** Carbon dioxide leaves a swirled vial in minutes, 1/s; mol/kg that stay, as under air. */
const LEAVES = 1 / 500;
const CO2_UNDER_AIR = 1.2e-5;
/** Calcium that is carried down with magnesium's hydroxide, as a share, and how fast it comes out again, 1/s: why a first blue can fade. */
const CARRIED = { share: 0.012, rate: 1 / 30 };

export const freshVial = (): Vial => ({ ml: 0, plume: 0, lost: 0, released: 0, seconds: 0 });

/** The vial after some seconds in which so many mL fell into it, swirled from 0 (standing) to 1. What falls is there from the start; first-order laws from then on. */
export function onward(recipe: Recipe, vial: Vial, seconds: number, ml: number, swirl: number): Vial {
	const mixing = MIXES.standing + (MIXES.swirled - MIXES.standing) * swirl;
	const poured = vial.plume + ml * recipe.molar * (1 - PLUME);
	const free = recipe.analyte === 'alkalinity' ? carbonDioxide(recipe, vial) - vial.lost : 0;
	return {
		ml: vial.ml + ml,
		plume: poured * Math.exp(-mixing * seconds),
		lost: vial.lost + Math.max(0, free - CO2_UNDER_AIR) * (1 - Math.exp(-LEAVES * swirl * seconds)),
		released: 1 - (1 - vial.released) * Math.exp(-CARRIED.rate * (0.2 + 0.8 * swirl) * seconds),
		seconds: vial.seconds + seconds
	};
}

/** Roughly what of a vial's carbon is dissolved gas: what acid has set free. */
function carbonDioxide(recipe: Recipe, vial: Vial): number {
	const { base, kg } = sampleOf(recipe);
	return Math.min(base.dic, (vial.ml * recipe.molar * 1e-3) / kg);
}

interface Sample {
	base: Base;
	kg: number;
	/** Of all that is titrated with a complexing agent, mmol. */
	metals: { name: string; mmol: number; agent: number; dye: number }[];
}
const samples = new WeakMap<Recipe, Sample>();
/** What a sample holds, worked out once for each recipe. */
function sampleOf(recipe: Recipe): Sample {
	const before = samples.get(recipe);
	if (before) return before;
	const { water, sampleMl, analyte } = recipe;
	const { salinity: s, temperatureC: t, alkalinity: dkh, ph } = water;
	const rho = density(s, t);
	const dic = (carbonateSystem({ s, t, ph, dkh, calcium: undefined })?.dic ?? 0) * 1e-6;
	const mmol = {
		calcium: (water.calcium / ATOM.Ca) * 1e-3 * sampleMl,
		magnesium: (water.magnesium / ATOM.Mg) * 1e-3 * sampleMl,
		potassium: (recipe.precipitantMmol ?? 0) - (water.potassium / ATOM.K) * 1e-3 * sampleMl
	};
	const constants = analyte === 'alkalinity' ? {} : CONSTANTS[analyte];
	const hard = ((water.hardness * CAO_PER_DEGREE) / MOLECULE.CaO) * 1e-3 * sampleMl;
	const sample = {
		base: baseOf((dkh * MEQ_PER_DKH) / rho, dic, s, t),
		kg: (sampleMl * rho) / 1e6,
		metals: (Object.entries(constants) as [keyof typeof mmol, { agent: number; dye: number }][]).map(
			([name, k]) => ({
				name,
				// Hardness is three parts calcium, one part magnesium where nothing else is known of it.
				mmol:
					analyte === 'hardness'
						? hard * (name === 'calcium' ? 0.75 : 0.25)
						: recipe.precipitantMmol === undefined && name === 'potassium'
							? (water.potassium / ATOM.K) * 1e-3 * sampleMl
							: Math.max(0, mmol[name]),
				...k
			})
		)
	};
	samples.set(recipe, sample);
	return sample;
}

/** A part of the vial in which titrant has the concentration of so many mmol in all of it. */
export interface Standing {
	/** pH (total scale), or the negative decimal logarithm of the free metal, mol/L. */
	p: number;
	/** How far the indicator has turned, 0 to 1. */
	turned: number;
	/** Of each dye of the indicator, how far it has. */
	forms: number[];
}

/** What stands in a part of the vial: with `mmol` of titrant for the whole vial's sample, `ml` poured in all. */
export function standing(recipe: Recipe, mmol: number, ml: number, vial?: Vial): Standing {
	const { base, kg, metals } = sampleOf(recipe);
	const indicator = INDICATORS[recipe.indicator];
	const share = recipe.sampleMl / (recipe.sampleMl + ml);
	if (recipe.analyte === 'alkalinity') {
		const dic = Math.max(0, base.dic - (vial?.lost ?? 0));
		const ph = phWith({ ...base, dic }, share, ((mmol * 1e-3) / kg) * share);
		const forms = indicator.forms.map((f) => turnedAt(ph, 'pK' in f ? f.pK : 7));
		return { p: ph, turned: turnedAt(ph, 'turnsAt' in indicator ? indicator.turnsAt : 7), forms };
	}
	const litres = (recipe.sampleMl + ml) * 1e-3;
	const carried = recipe.analyte === 'calcium' ? CARRIED.share * (1 - (vial?.released ?? 1)) : 0;
	const molar = metals.map((m): Metal => ({ ...m, total: (m.mmol * 1e-3 * (1 - carried)) / litres }));
	const byTitrant = indicator.by === 'titrant';
	const found = complexes(molar, Math.max(0, mmol * 1e-3) / litres, byTitrant ? 0 : DYE_MOLAR * share);
	const k = 'constant' in indicator ? 10 ** indicator.constant : 0;
	const turned = byTitrant ? (k * found.freeAgent) / (1 + k * found.freeAgent) : 1 - found.boundDye;
	return { p: -Math.log10(Math.max(1e-16, found.freeMetal)), turned, forms: [turned] };
}

/** The two waters of a vial: all of it, and where the drops fall. */
function bothOf(recipe: Recipe, vial: Vial): { bulk: Standing; plume: Standing; mixed: number } {
	const all = vial.ml * recipe.molar;
	const bulk = standing(recipe, all - vial.plume, vial.ml, vial);
	const plume = standing(recipe, all - vial.plume + vial.plume / PLUME, vial.ml, vial);
	return { bulk, plume, mixed: all > 0 ? 1 - vial.plume / all : 1 };
}

/** What is seen of a vial against white paper: its dyes, and a cloud where something has fallen out. */
function surfaceOf(recipe: Recipe, { forms }: Standing, ml: number): Spectrum {
	const share = recipe.sampleMl / (recipe.sampleMl + ml);
	const dyes = INDICATORS[recipe.indicator].forms;
	const clear = through(
		PAPER,
		PAPER.map((_, i) =>
			dyes.reduce((sum, dye, n) => {
				const turned = forms[n] ?? 0;
				return sum + share * ((1 - turned) * (dye.before[i] ?? 0) + turned * (dye.after[i] ?? 0));
			}, 0)
		)
	);
	return recipe.precipitantMmol === undefined ? clear : clear.map((v) => CLOUD + (1 - CLOUD) * v);
}
/** How much of the light a cloud throws back before it goes through the dye. */
const CLOUD = 0.25;

export interface Look {
	colour: Rgb;
	plume: Rgb;
	/** How far bulk and plume have turned, 0 to 1. */
	turned: number;
	plumeTurned: number;
	/** pH, or pM. */
	p: number;
	/** 1 where the titrant is spread evenly. */
	mixed: number;
}
/** A vial as an eye sees it in a light. */
export function lookAt(recipe: Recipe, vial: Vial, light: Light): Look {
	const { bulk, plume, mixed } = bothOf(recipe, vial);
	return {
		colour: seen(surfaceOf(recipe, bulk, vial.ml), light),
		plume: seen(surfaceOf(recipe, plume, vial.ml), light),
		turned: bulk.turned,
		plumeTurned: plume.turned,
		p: bulk.p,
		mixed
	};
}

export interface EndPoint {
	/** mL at which half the indicator has turned, all mixed and nothing held back; undefined where it never does. */
	ml: number | undefined;
	/** mL by amounts of substance alone. */
	equivalenceMl: number;
	/** pH or pM there. */
	p: number | undefined;
}
/**
 * Where a titration ends: half of the indicator turned (pH = pK, pM = log K), by halving.
 *
 * @example endPointOf({ analyte: 'calcium', water: SEA, sampleMl: 5, molar: 0.0625, indicator: 'calcon' }).ml // → 0.8215
 */
export function endPointOf(recipe: Recipe): EndPoint {
	const { base, kg, metals } = sampleOf(recipe);
	const needed =
		recipe.analyte === 'alkalinity' ? base.alkalinity * kg * 1e3 : metals.reduce((sum, m) => sum + m.mmol, 0);
	const equivalenceMl = needed / recipe.molar;
	const turnedWith = (ml: number) => standing(recipe, ml * recipe.molar, ml);
	let [low, high] = [0, 2 * equivalenceMl + 1];
	if (turnedWith(high).turned < 0.5) return { ml: undefined, equivalenceMl, p: undefined };
	for (let i = 0; i < 40; i++) {
		const ml = (low + high) / 2;
		if (turnedWith(ml).turned < 0.5) low = ml;
		else high = ml;
	}
	return { ml: high, equivalenceMl, p: turnedWith(high).p };
}

/** Drops of one tip are so unlike each other, as a share; one in thirty breaks, and one part of it stays behind. */
const UNLIKE = 0.06;
const SPLIT = { chance: 1 / 30, part: 0.6 };
/**
 * Sizes of drops from a tip that makes them of `dropMl`, by chance from a seed; some break.
 *
 * @example dropsFrom(0.05, 1)().ml < 0.07 // → true
 */
export function dropsFrom(dropMl: number, seed: number): () => { ml: number; split: boolean } {
	const random = uniform(seed);
	return () => {
		// The mean of four uniform numbers: a bell without tails, so that no drop is absurd.
		const bell = (random() + random() + random() + random() - 2) * Math.sqrt(3);
		const split = random() < SPLIT.chance;
		return { ml: dropMl * (1 + UNLIKE * bell) * (split ? SPLIT.part : 1), split };
	};
}
