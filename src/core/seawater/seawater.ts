import { bad, badAll, good, type Outcome, type Problem } from '../base';
import { convert } from '../quantities';
import {
	ATOM,
	CAO_PER_DEGREE,
	MOLECULE,
	conductivityOf,
	density,
	parameterOf,
	specificGravity
} from '../catalogue';
import { NBS_ABOVE_TOTAL } from './ammonia';
import { CONSTANTS_HOLD, k0, k1, k2, kb, kspAragonite, kspCalcite, kw, totalBoron } from './constants';
import type { Carbonate, SeawaterRequest, SeawaterResult } from './schema';

/** What all major ions are compared at, PSU: standard sea water (Millero et al. 2008). */
const STANDARD_SALINITY = 35;
/** Where each specific gravity is read and referred to, °C. */
const GRAVITIES = { '25/25': 25, '20/20': 20, '60/60F': (60 - 32) / 1.8 };

/** 10 mg/L of CaO carry two equivalents a mole. */
export const MEQ_PER_DKH = (2 * CAO_PER_DEGREE) / MOLECULE.CaO;

const IONS = ['calcium', 'magnesium', 'potassium', 'strontium', 'alkalinity'] as const;

/**
 * What a water is: salinity, density, specific gravity and conductivity; its major ions as they would be at 35 PSU; and,
 * with pH and alkalinity, its carbonate system (with calcium, saturation). PSS-78, EOS-80; constants in `constants.ts`.
 * CO2 pressure is taken as its fugacity (0.3 % less). Problems: unknown units, a salinity no sea water has, carbonate asked
 * for outside 19 to 43 PSU, a pH that such alkalinity cannot hold.
 *
 * @example seawater({ salinity: { value: 1.0264, unit: 'SG 25/25' }, temperatureC: 25 }).value.practicalSalinity // → 35.04
 */
export function seawater(request: SeawaterRequest): Outcome<SeawaterResult> {
	const problems: Problem[] = [];
	const inOwn = (quantity: (typeof IONS)[number] | 'salinity', unit: string): number | undefined => {
		const given = request[quantity];
		if (given === undefined) return undefined;
		if (typeof given === 'number') return given;
		const result = convert({ quantity, value: given.value, from: given.unit, to: unit });
		if (result.ok) return result.value.value;
		problems.push(
			...result.problems.map((p) => ({ ...p, path: `/${quantity}${p.path === '/from' ? '/unit' : p.path}` }))
		);
		return undefined;
	};
	const s = inOwn('salinity', 'PSU');
	const ions = IONS.map((ion) => [ion, inOwn(ion, parameterOf(ion)!.unit)] as const);
	if (problems.length || s === undefined) return badAll(problems);

	const t = request.temperatureC;
	const rho = density(s, t);
	const at35 = Object.fromEntries(
		s > 0
			? ions.flatMap(([ion, value]) => (value === undefined ? [] : [[ion, (value * STANDARD_SALINITY) / s]]))
			: []
	);
	const result: SeawaterResult = {
		practicalSalinity: s,
		densityKgM3: rho,
		sg: Object.fromEntries(Object.entries(GRAVITIES).map(([name, at]) => [name, specificGravity(s, at)])),
		conductivity25: conductivityOf(s, 25),
		at35
	};
	const dkh = ions.find(([ion]) => ion === 'alkalinity')?.[1];
	if (request.ph === undefined || dkh === undefined) return good(result);
	if (s < CONSTANTS_HOLD.from || s > CONSTANTS_HOLD.to)
		return bad(
			'/salinity',
			`must be ${CONSTANTS_HOLD.from} to ${CONSTANTS_HOLD.to} PSU for the carbonate system; leave pH out for other water`
		);
	const water: Water = {
		s,
		t,
		ph: request.phScale === 'NBS' ? request.ph - NBS_ABOVE_TOTAL : request.ph,
		dkh,
		calcium: ions.find(([ion]) => ion === 'calcium')?.[1]
	};
	const carbonate = withErrors(water, request.standardUncertainty);
	return carbonate
		? good({ ...result, carbonate })
		: bad('/ph', 'is higher than so little alkalinity can hold; measure both again');
}

/** Of a water: PSU, °C, total scale, dKH, mg/L. */
export interface Water {
	s: number;
	t: number;
	ph: number;
	dkh: number;
	calcium: number | undefined;
}

/** What a pen, usual kits and a thermometer are off by, standard uncertainties; of alkalinity and calcium a share. */
const USUAL_ERROR = { ph: 0.06, s: 0.6, t: 0.3, dkh: 0.025, calcium: 0.025 };
/** Steps over which a slope is taken, as a share of the error. */
const SLOPE_STEP = 0.5;

/** The carbonate system with errors: each input's through its own slope (GUM 5.1.3), taken as independent. */
function withErrors(water: Water, given: SeawaterRequest['standardUncertainty'] = {}): Carbonate | undefined {
	const values = carbonateSystem(water);
	if (!values) return undefined;
	const errors: [keyof Water, number][] = [
		['ph', given.ph ?? USUAL_ERROR.ph],
		['s', given.salinity ?? USUAL_ERROR.s],
		['t', given.temperatureC ?? USUAL_ERROR.t],
		['dkh', given.alkalinity ?? USUAL_ERROR.dkh * water.dkh],
		['calcium', given.calcium ?? USUAL_ERROR.calcium * (water.calcium ?? 0)]
	];
	const squares: Record<string, number> = {};
	for (const [input, u] of errors) {
		const at = water[input];
		if (at === undefined || !(u > 0)) continue;
		const [up, down] = [SLOPE_STEP, -SLOPE_STEP].map((by) =>
			carbonateSystem({ ...water, [input]: at + by * u })
		);
		if (!up || !down) continue;
		for (const name of Object.keys(values) as (keyof Carbonate)[]) {
			const slope = ((up[name] as number) - (down[name] as number)) / (2 * SLOPE_STEP);
			squares[name] = (squares[name] ?? 0) + slope * slope;
		}
	}
	return {
		...values,
		standardUncertainty: Object.fromEntries(Object.entries(squares).map(([name, x]) => [name, Math.sqrt(x)]))
	};
}

/**
 * From pH (total scale) and alkalinity; phosphate and silicate are left out, they weigh little.
 *
 * @example carbonateSystem({ s: 35, t: 25, ph: 8.1, dkh: 7, calcium: 412 }).omegaAragonite // → 3.867
 */
export function carbonateSystem(water: Water): Carbonate | undefined {
	const { s, t } = water;
	const rho = density(s, t);
	// meq/L over kg/m³ is mol/kg.
	const alkalinity = (water.dkh * MEQ_PER_DKH) / rho;
	const h = 10 ** -water.ph;
	const [first, second, boric] = [k1(s, t), k2(s, t), kb(s, t)];
	const borate = (totalBoron(s) * boric) / (boric + h);
	const fromCarbonate = alkalinity - borate - kw(s, t) / h + h;
	if (!(fromCarbonate > 0)) return undefined;
	const hco3 = fromCarbonate / (1 + (2 * second) / h);
	const co3 = (hco3 * second) / h;
	const co2 = (hco3 * h) / first;
	// mg/L over g/mol is mmol/L; over kg/m³ that is mol/kg.
	const calcium = water.calcium === undefined ? undefined : water.calcium / ATOM.Ca / rho;
	const micro = 1e6;
	return {
		dic: (hco3 + co3 + co2) * micro,
		co3: co3 * micro,
		co2: co2 * micro,
		pco2: (co2 / k0(s, t)) * micro,
		...(calcium === undefined
			? {}
			: {
					omegaAragonite: (calcium * co3) / kspAragonite(s, t),
					omegaCalcite: (calcium * co3) / kspCalcite(s, t)
				})
	};
}
