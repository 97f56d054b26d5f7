import { convert, isQuantity, unitOf } from '../quantities';
import { ATOM, parameterOf, PARAMETERS } from '../catalogue';
import { bad, badAll, good, type Outcome, type Problem } from '../base';
import { ANIONS, ionMass, saltOf, type Salt } from './formula';
import { pureSalt, type Caution } from './salts';
import { DAMP, fallsOut, isDamp, isInsoluble, isTooMuch, mostPerL } from './solubility';
import type { Label, Recipe, Supplement } from './supplement';

/** What one mL (of a powder: one g) brings to a litre of water. */
export interface Brings {
	per: 'mL' | 'g';
	/** What it is poured for: the parameter it moves most, of its healthy day. */
	main: string;
	/** By parameter, in its own unit, in one litre. */
	raises: Record<string, number>;
	/** mg of what no test is for. */
	leaves: { sodium: number; chloride: number; sulphate: number };
	/** mmol of inorganic carbon, which decides what becomes of pH. */
	carbon: number;
	/** g of dissolved salt. */
	saltG: number;
	/** Of all of it, as a share. */
	relativeError: number;
	cautions: Caution[];
}

/** How well strengths are known where nothing is said, standard uncertainties as shares: a label's, and a kitchen scale's. */
const LABEL_ERROR = 0.05;
const RECIPE_ERROR = 0.02;
/** g of sea salt that a litre of sea water holds for each PSU: 35.16504 g/kg at 35 PSU (Millero et al. 2008) and 1.0233 kg/L (25 °C). */
export const SALT_PER_PSU = (35.16504 / 35) * 1.0233;
/** g of dissolved salt a g of dry mix gives, where the bag does not say: mixes hold hydrates. */
export const DRY_MIX = 0.9;
const DKH_PER_MEQ = 1 / (unitOf('alkalinity', 'dKH')!.factor ?? NaN);

/** Where an ion is a parameter of its own: g/mol. */
const MEASURED: Readonly<Record<string, [parameter: string, mass: number]>> = Object.fromEntries(
	PARAMETERS.flatMap(({ id, ions }) => Object.entries(ions).map(([ion, mass]) => [ion, [id, mass]] as const))
);
/** Which of what a salt brings it is poured for: the first of these, as keepers name their bottles. */
const MAIN = PARAMETERS.filter((p) => p.namesBottle !== null)
	.sort((a, b) => a.namesBottle! - b.namesBottle!)
	.map((p) => p.id);

/**
 * What one mL or g of a supplement brings to one litre: by its formula, purity and strength, or by its label's sentence. Problems:
 * formulas unknown, what does not dissolve at 20 °C or falls out beside its neighbours, a powder of more than all of itself, a label in a unit its
 * parameter does not have.
 *
 * @example compositionOf({ format: 'tevrik.supplement/1', id: 'soda', name: 'Soda', kind: 'solution', composition: { recipe: { salt: 'NaHCO3', gramsPerL: 80 } } }).value.raises.alkalinity // → 2.67
 */
export function compositionOf(supplement: Supplement): Outcome<Brings> {
	const { composition } = supplement;
	if ('label' in composition) return fromLabel(supplement, composition.label);
	const recipes = Array.isArray(composition.recipe) ? composition.recipe : [composition.recipe];
	const several = recipes.length > 1;
	const problems: Problem[] = [];
	const parts: Part[] = [];
	recipes.forEach((recipe, index) => {
		const path = Array.isArray(composition.recipe) ? `/composition/recipe/${index}` : '/composition/recipe';
		const part = partOf(supplement.kind, recipe, several, path);
		if (part.ok) parts.push(part.value);
		else problems.push(...part.problems);
	});
	if (!problems.length) problems.push(...togetherWrong(supplement.kind, parts));
	if (problems.length) return badAll(problems);
	const damp = parts.some((p) => p.damp) ? DAMP.relativeError : 0;
	const brings: Brings = {
		per: supplement.kind === 'powder' ? 'g' : 'mL',
		main: 'salinity',
		raises: {},
		leaves: { sodium: 0, chloride: 0, sulphate: 0 },
		carbon: 0,
		saltG: 0,
		relativeError: Math.min(1, Math.hypot(supplement.relativeError ?? RECIPE_ERROR, damp)),
		cautions: []
	};
	for (const { salt, grams } of parts) dissolve(salt, grams, brings);
	brings.main = MAIN.find((parameter) => (brings.raises[parameter] ?? 0) > 0) ?? 'salinity';
	brings.raises['salinity'] = brings.saltG / SALT_PER_PSU;
	brings.cautions = [...new Set([...brings.cautions, ...(supplement.cautions ?? [])])];
	return good(brings);
}

/** g of a salt in one mL or one g of the supplement. */
interface Part {
	salt: Salt;
	grams: number;
	/** It holds water that nobody weighed. */
	damp: boolean;
}

/** Of one salt of a recipe. Where its purity is not said, a salt that draws water is as damp as its opened bag. */
function partOf(kind: Supplement['kind'], recipe: Recipe, several: boolean, path: string): Outcome<Part> {
	const { salt: formula, gramsPerL, purity } = recipe;
	const its = saltOf(formula);
	if (!its.ok) return badAll(its.problems.map((p) => ({ ...p, path: `${path}/salt` })));
	const salt = its.value;
	if (isInsoluble(salt)) return bad(`${path}/salt`, 'does not dissolve: as a supplement it only lies there');
	const damp = purity === undefined && isDamp(salt);
	const pure = purity ?? (damp ? DAMP.purity : 1);
	if (kind === 'powder')
		return several && purity === undefined
			? bad(`${path}/purity`, 'must say which share of the powder it is')
			: good({ salt, grams: pure, damp });
	if (kind === 'saturated') {
		const most = mostPerL(salt);
		return most === undefined
			? bad(`${path}/salt`, 'has no known solubility; give grams per litre instead')
			: good({ salt, grams: most / 1000, damp: false });
	}
	if (gramsPerL === undefined) return bad(`${path}/gramsPerL`, 'must say how many grams stand in a litre');
	if (isTooMuch(salt, gramsPerL * pure))
		return bad(
			`${path}/gramsPerL`,
			`is more than dissolves at 20 °C, about ${Number((mostPerL(salt) ?? 0).toPrecision(2))} g of ${formula} in a litre`
		);
	return good({ salt, grams: (gramsPerL * pure) / 1000, damp });
}

/** What salts that are each possible cannot be together. */
function togetherWrong(kind: Supplement['kind'], parts: Part[]): Problem[] {
	const path = '/composition/recipe';
	const total = parts.reduce((sum, p) => sum + p.grams, 0);
	if (kind === 'powder' && total > 1 + 1e-9)
		return [{ path, message: `adds up to ${Math.round(100 * total)} % of the powder` }];
	const out = fallsOut(
		parts.map(({ salt, grams }) => ({ salt, gramsPerL: 1000 * grams })),
		kind === 'powder'
	);
	return out
		? [
				{
					path,
					message: `does not stay dissolved: ${out.formula} falls out; keep these salts in two bottles`
				}
			]
		: [];
}

function dissolve(salt: Salt, grams: number, into: Brings): void {
	const { cation, cations, anion, anions, mass } = salt;
	const moles = grams / mass;
	const add = (parameter: string, amount: number) =>
		(into.raises[parameter] = (into.raises[parameter] ?? 0) + amount);
	for (const [ion, count] of [
		[cation, cations],
		[anion, anions]
	] as const) {
		const its = MEASURED[ion];
		if (its) add(its[0], moles * count * its[1] * 1000);
		into.saltG += moles * count * ionMass(ion);
	}
	if (cation === 'Na') into.leaves.sodium += moles * cations * ATOM.Na * 1000;
	if (anion === 'Cl') into.leaves.chloride += moles * anions * ATOM.Cl * 1000;
	if (anion === 'SO4') into.leaves.sulphate += moles * anions * ionMass('SO4') * 1000;
	const { alkalinity, carbon } = ANIONS[anion];
	if (alkalinity) add('alkalinity', moles * anions * alkalinity * 1000 * DKH_PER_MEQ);
	into.carbon += moles * anions * carbon * 1000;
	into.cautions.push(...(pureSalt(salt)?.cautions ?? []));
}

/**
 * A label says what it raises and nothing else. What must stand beside that is taken as the usual: alkalinity comes as sodium's, calcium,
 * magnesium, potassium and strontium as chlorides, so that salinity is not forgotten.
 */
function fromLabel(supplement: Supplement, { amount, unit, waterL, raises }: Label): Outcome<Brings> {
	const path = '/composition/label/raises';
	const parameter = raises.parameter;
	let value = raises.value;
	const own = parameterOf(parameter)?.unit;
	if (isQuantity(parameter) && own) {
		const there = convert({ quantity: parameter, value, from: raises.unit, to: own });
		const known = unitOf(parameter, raises.unit);
		if (!there.ok || !known)
			return badAll([{ path: `${path}/unit`, message: `is not a unit of ${parameter}` }]);
		// A change of salinity by 0.001 is no specific gravity: only ratios raise.
		if (known.factor === undefined)
			return badAll([{ path: `${path}/unit`, message: `must be ${own} for a change` }]);
		value = there.value.value;
	}
	const per = (value * waterL) / amount;
	const usual = parameterOf(parameter)?.usualSalt;
	const salt = usual ? saltOf(usual) : undefined;
	const brings: Brings = {
		per: unit,
		main: parameter,
		raises: {},
		leaves: { sodium: 0, chloride: 0, sulphate: 0 },
		carbon: 0,
		saltG: 0,
		relativeError: supplement.relativeError ?? LABEL_ERROR,
		cautions: []
	};
	if (salt?.ok) {
		const one: Brings = { ...brings, raises: {}, leaves: { ...brings.leaves } };
		dissolve(salt.value, 1, one);
		dissolve(salt.value, per / (one.raises[parameter] ?? NaN), brings);
		brings.raises['salinity'] = brings.saltG / SALT_PER_PSU;
	}
	brings.raises[parameter] = per;
	// Whatever raises pH on its label brings no carbonic acid with it: the worst of what it may be.
	if (supplement.ph === 'raises') brings.carbon = 0;
	const apart = parameter === 'alkalinity' || parameter === 'calcium';
	brings.cautions = [
		...new Set([
			...(supplement.cautions ?? []),
			...(apart ? (['apart'] as const) : []),
			...(supplement.ph === 'raises' ? (['raises-ph'] as const) : [])
		])
	];
	return good(brings);
}
