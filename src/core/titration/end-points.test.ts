import { describe, expect, it } from 'vitest';
import { ATOM, density } from '../catalogue';
import { k1, k2, kb, kw, totalBoron } from '../seawater/constants';
import { carbonateSystem, MEQ_PER_DKH } from '../seawater';
import { uniform } from '../statistics';
import { SEA, endPointOf, type Recipe } from './vial';

/**
 * Equilibria solved another way: Newton's method on all mass balances at once, in logarithms of the free components, with every species as a
 * product of powers (Morel's tableau).
 */
function tableau(totals: number[], species: { log: number; of: number[] }[], guess: number[]): number[] {
	const x = [...guess];
	for (let round = 0; round < 400; round++) {
		const c = species.map((s) => 10 ** (s.log + s.of.reduce((sum, n, j) => sum + n * x[j]!, 0)));
		const gaps = totals.map((t, j) => species.reduce((sum, s, i) => sum + s.of[j]! * c[i]!, 0) - t);
		const slopes = totals.map((_, j) =>
			totals.map((_, k) => species.reduce((sum, s, i) => sum + s.of[j]! * s.of[k]! * c[i]! * Math.LN10, 0))
		);
		const step = solved(slopes, gaps);
		step.forEach((d, j) => (x[j]! -= Math.max(-0.5, Math.min(0.5, d))));
		if (step.every((d) => Math.abs(d) < 1e-12)) break;
	}
	return x;
}
function solved(m: number[][], right: number[]): number[] {
	const a = m.map((row, i) => [...row, right[i]!]);
	for (let i = 0; i < a.length; i++) {
		const pivot = a
			.slice(i)
			.reduce((best, row, k) => (Math.abs(row[i]!) > Math.abs(a[best]![i]!) ? i + k : best), i);
		[a[i], a[pivot]] = [a[pivot]!, a[i]!];
		for (let k = 0; k < a.length; k++) {
			if (k === i) continue;
			const f = a[k]![i]! / a[i]![i]!;
			a[k] = a[k]!.map((v, j) => v - f * a[i]![j]!);
		}
	}
	return a.map((row, i) => row.at(-1)! / row[i]!);
}
/** The mL at which something that grows with mL passes a mark. */
function passes(of: (ml: number) => number, mark: number, high: number): number {
	let low = 0;
	for (let i = 0; i < 45; i++) {
		const ml = (low + high) / 2;
		if (of(ml) < mark) low = ml;
		else high = ml;
	}
	return high;
}

/**
 * pH of acidified sea water on the free scale with sulphate and fluoride as acids of their own (Dickson 1990; Dickson and Riley 1979): the
 * total scale in the end is what it is defined as.
 */
function phByTableau(water: Recipe['water'], sampleMl: number, molar: number, ml: number): number {
	const { salinity: s, temperatureC: t, alkalinity: dkh, ph } = water;
	const rho = density(s, t);
	const kg = (sampleMl * rho) / 1e6;
	const share = sampleMl / (sampleMl + ml);
	const T = t + 273.15;
	const strength = (19.924 * s) / (1000 - 1.005 * s);
	const lnKs =
		-4276.1 / T +
		141.328 -
		23.093 * Math.log(T) +
		(-13856 / T + 324.57 - 47.986 * Math.log(T)) * Math.sqrt(strength) +
		(35474 / T - 771.54 + 114.723 * Math.log(T)) * strength -
		(2698 / T) * strength ** 1.5 +
		(1776 / T) * strength ** 2 +
		Math.log(1 - 0.001005 * s);
	const ks = Math.exp(lnKs);
	const sulphate = (0.14 / 96.062) * (s / 1.80655);
	const toFree = 1 / (1 + sulphate / ks);
	const free = (k: number) => Math.log10(k * toFree);
	const [c1, c2, b, w] = [free(k1(s, t)), free(k2(s, t)), free(kb(s, t)), free(kw(s, t))];
	const dic = carbonateSystem({ s, t, ph, dkh, calcium: undefined })!.dic * 1e-6;
	const alkalinity = (dkh * MEQ_PER_DKH) / rho;
	// Components H, CO3, borate, sulphate. Of acid at their zero: HCO3-like counting is by the proton condition.
	const acid = (ml * molar * 1e-3) / kg;
	// Total H over CO3--, B(OH)4-, SO4--: alkalinity's zero level is H2CO3, B(OH)3, HSO4 not (sulphate is no base at its zero level).
	const protons = (2 * dic + totalBoron(s) - alkalinity + acid) * share;
	const x = tableau(
		[protons, dic * share, totalBoron(s) * share, sulphate * share],
		[
			{ log: 0, of: [1, 0, 0, 0] },
			{ log: w, of: [-1, 0, 0, 0] },
			{ log: 0, of: [0, 1, 0, 0] },
			{ log: -c2, of: [1, 1, 0, 0] },
			{ log: -c1 - c2, of: [2, 1, 0, 0] },
			{ log: 0, of: [0, 0, 1, 0] },
			{ log: -b, of: [1, 0, 1, 0] },
			{ log: 0, of: [0, 0, 0, 1] },
			{ log: -Math.log10(ks), of: [1, 0, 0, 1] }
		],
		[-6, -6, -5, -2]
	);
	return -(x[0]! - Math.log10(toFree));
}

const close = (a: number, b: number) => Math.abs(a / b - 1);

describe('end points against equilibria solved independently', () => {
	const random = uniform(5);
	const waters = Array.from({ length: 25 }, () => ({
		...SEA,
		alkalinity: 3 + 11 * random(),
		calcium: 250 + 350 * random(),
		magnesium: 900 + 700 * random(),
		salinity: 25 + 15 * random(),
		temperatureC: 16 + 14 * random(),
		ph: 7.7 + 0.8 * random()
	}));

	it('alkalinity: bromocresol green half turned, on the free scale with sulphate as an acid', () => {
		for (const water of waters) {
			const recipe: Recipe = {
				analyte: 'alkalinity',
				water,
				sampleMl: 5,
				molar: 0.04,
				indicator: 'bromocresol green'
			};
			const end = endPointOf(recipe);
			const other = passes((ml) => -phByTableau(water, 5, 0.04, ml), -4.42, 2 * end.equivalenceMl);
			expect(close(end.ml!, other)).toBeLessThan(0.005);
			// By amounts alone it lies within some percent: where the dye turns is not where acid and bases meet.
			expect(close(end.ml!, end.equivalenceMl)).toBeLessThan(0.05);
		}
	});

	it.each([
		['calcium', 'calcon', [['calcium', 10.6, 5.85]], 5, 0.06],
		['magnesium', 'eriochrome', [['magnesium', 8.3, 5.4]], 2, 0.15]
	] as const)(
		'%s: half of the indicator free, all balances at once',
		(analyte, indicator, metals, sampleMl, molar) => {
			for (const water of waters) {
				const end = endPointOf({ analyte, water, sampleMl, molar, indicator });
				const boundDye = (ml: number) => {
					const litres = (sampleMl + ml) / 1000;
					const totals = metals.map(
						([name]) =>
							((water[name] / ATOM[name === 'calcium' ? 'Ca' : 'Mg'] / 1000) * sampleMl * 1e-3) / litres
					);
					const dye = (2e-5 * sampleMl) / (sampleMl + ml);
					const agent = (molar * ml * 1e-3) / litres;
					const n = metals.length;
					const unit = (j: number) => Array.from({ length: n + 2 }, (_, k) => (k === j ? 1 : 0));
					const both = (j: number, k: number) => unit(j).map((v, i) => v + unit(k)[i]!);
					const x = tableau(
						[...totals, agent, dye],
						[
							...Array.from({ length: n + 2 }, (_, j) => ({ log: 0, of: unit(j) })),
							...metals.map(([, a], j) => ({ log: a, of: both(j, n) })),
							...metals.map(([, , d], j) => ({ log: d, of: both(j, n + 1) }))
						],
						[...totals.map(() => -4), -7, -6]
					);
					return 1 - 10 ** x[n + 1]! / dye;
				};
				const other = passes((ml) => -boundDye(ml), -0.5, 2 * end.equivalenceMl);
				expect(close(end.ml!, other)).toBeLessThan(0.005);
				expect(close(end.ml!, end.equivalenceMl)).toBeLessThan(0.005);
			}
		}
	);

	it('potassium titrated back: what potassium left of the precipitant', () => {
		const needed = (potassium: number) =>
			endPointOf({
				analyte: 'potassium',
				water: { ...SEA, potassium },
				sampleMl: 4,
				molar: 0.075,
				indicator: 'bromophenol blue',
				precipitantMmol: 0.075
			}).ml!;
		expect(close(needed(300) - needed(420), ((120 / ATOM.K / 1000) * 4) / 0.075)).toBeLessThan(0.005);
	});
});
