import { differenceCiede2000, useMode, modeLab65, modeRgb } from 'culori/fn';
import { describe, expect, it } from 'vitest';
import { LIGHTS, type Light } from '../photograph';
import { ATOM, density } from '../quantities';
import { k1, k2, kb, kw, totalBoron } from '../seawater/constants';
import { carbonateSystem, MEQ_PER_DKH } from '../seawater';
import { uniform } from '../statistics';
import { grownTo, vialColour } from './growth';
import { seen } from './sight';
import { titration } from './titration';
import type { TitrationRequest } from './schema';
import { SEA, dropsFrom, endPointOf, type Recipe } from './vial';

useMode(modeRgb);
const lab65 = useMode(modeLab65);
const lab = ([r, g, b]: number[]) => lab65({ mode: 'rgb', r: r! / 255, g: g! / 255, b: b! / 255 })!;
const apart = (a: number[], b: number[]) => differenceCiede2000()(lab(a), lab(b));
const run = (request: TitrationRequest) => {
	const outcome = titration(request);
	if (!outcome.ok) throw new Error(JSON.stringify(outcome.problems));
	return outcome.value;
};

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

describe('a vial in time', () => {
	const base: TitrationRequest = {
		analyte: 'calcium',
		sampleMl: 5,
		titrant: { molar: 0.0625 },
		additions: []
	};
	const end = run(base).endPoint.ml!;

	it('turns where the drop falls long before all of it does, and swirling takes it away', () => {
		const request = {
			...base,
			additions: [
				{ ml: 0.8 * end, seconds: 20, swirl: 1 },
				{ ml: 0, seconds: 6, swirl: 1 },
				{ ml: 0.1 * end, seconds: 0.3 },
				{ ml: 0, seconds: 4, swirl: 1 }
			]
		};
		const [, before, fallen, swirled] = run(request).frames;
		expect(apart(before!.colour, before!.plume)).toBeLessThan(8);
		expect(apart(fallen!.colour, fallen!.plume)).toBeGreaterThan(40);
		expect(apart(swirled!.colour, swirled!.plume)).toBeLessThan(3);
		expect(swirled!.mixed).toBeGreaterThan(0.99);
	});

	it('shows a first blue that fades: what was carried down comes out again', () => {
		const short = run({
			...base,
			additions: [
				{ ml: 0.995 * end, seconds: 2, swirl: 1 },
				{ ml: 0, seconds: 4, swirl: 1 },
				{ ml: 0, seconds: 120, swirl: 1 }
			]
		}).frames;
		expect(short[1]!.turned).toBeGreaterThan(0.9);
		expect(short[2]!.turned).toBeLessThan(0.3);
		const stays = run({
			...base,
			additions: [
				{ ml: 1.01 * end, seconds: 2, swirl: 1 },
				{ ml: 0, seconds: 4, swirl: 1 },
				{ ml: 0, seconds: 120, swirl: 1 }
			]
		}).frames;
		expect(stays[2]!.turned).toBeGreaterThan(0.9);
	});

	it('loses carbon dioxide when swirled, and its pH rises', () => {
		const acid: TitrationRequest = {
			analyte: 'alkalinity',
			sampleMl: 6,
			titrant: { molar: 0.036 },
			additions: [
				{ ml: 0.36, seconds: 5, swirl: 1 },
				{ ml: 0, seconds: 5, swirl: 1 },
				{ ml: 0, seconds: 300, swirl: 1 }
			]
		};
		const [, first, later] = run(acid).frames;
		expect(later!.ph!).toBeGreaterThan(first!.ph! + 0.1);
	});

	it('takes the same way in one step or in many', () => {
		const whole = run({ ...base, additions: [{ ml: 0.5, seconds: 10, swirl: 0.5 }] }).frames.at(-1)!;
		const parts = run({
			...base,
			additions: Array.from({ length: 50 }, () => ({ ml: 0.01, seconds: 0.2, swirl: 0.5 }))
		}).frames.at(-1)!;
		expect(parts.pm!).toBeCloseTo(whole.pm!, 1);
		expect(parts.ml).toBeCloseTo(whole.ml, 9);
	});

	it('draws drops by chance that are the same for the same seed, of the size asked for on average', () => {
		const drop = dropsFrom(0.05, 3);
		const drops = Array.from({ length: 2000 }, drop);
		const whole = drops.filter((d) => !d.split);
		expect(whole.reduce((sum, d) => sum + d.ml, 0) / whole.length).toBeCloseTo(0.05, 3);
		expect((drops.length - whole.length) / drops.length).toBeCloseTo(1 / 30, 1);
		expect(drops[7]).toEqual(Array.from({ length: 8 }, dropsFrom(0.05, 3))[7]);
	});

	it('says what cannot be: another kind of indicator, a precipitant for calcium', () => {
		expect(titration({ ...base, indicator: 'bromocresol green' })).toMatchObject({
			ok: false,
			problems: [{ path: '/indicator' }]
		});
		expect(titration({ ...base, precipitantMmol: 1 })).toMatchObject({
			ok: false,
			problems: [{ path: '/precipitantMmol' }]
		});
	});
});

describe('laws that hold whatever the water', () => {
	const random = uniform(21);
	const kits = [
		['alkalinity', 6, 0.036],
		['calcium', 5, 0.0625],
		['magnesium', 2, 0.155],
		['hardness', 5, 0.018]
	] as const;

	it.each(kits)(
		'%s: twice the sample takes twice the titrant, twice the strength half of it',
		(analyte, sampleMl, molar) => {
			const end = (ml: number, strength: number) =>
				run({ analyte, sampleMl: ml, titrant: { molar: strength }, additions: [] }).endPoint.ml!;
			const once = end(sampleMl, molar);
			expect(close(end(2 * sampleMl, molar), 2 * once)).toBeLessThan(1e-9);
			// Less water comes along with it, so the end is not quite where it was.
			expect(close(end(sampleMl, 2 * molar), once / 2)).toBeLessThan(0.01);
		}
	);

	it.each(kits)(
		'%s: more of it takes more, a lamp changes nothing, and it only turns one way while it is run in',
		(analyte, sampleMl, molar) => {
			let last = 0;
			for (const factor of [0.8, 1, 1.2]) {
				const water = { [analyte]: SEA[analyte] * factor };
				const { ml } = run({ analyte, water, sampleMl, titrant: { molar }, additions: [] }).endPoint;
				expect(ml!).toBeGreaterThan(last);
				last = ml!;
			}
			const additions = Array.from({ length: 12 }, () => ({
				ml: 0.16 * last * random(),
				seconds: 6,
				swirl: 1
			}));
			const by = (light: Light) => run({ analyte, sampleMl, titrant: { molar }, light, additions }).frames;
			const [day, blue] = [by('daylight'), by('blue tank lamp')];
			day.forEach((frame, i) => {
				expect(blue[i]!.turned).toBe(frame.turned);
				expect(blue[i]!.colour).not.toEqual(frame.colour);
				if (analyte !== 'calcium') expect(frame.turned).toBeGreaterThan((day[i - 1]?.turned ?? 0) - 0.02);
			});
		}
	);

	it('water without what is titrated turns at once', () => {
		const none = run({
			analyte: 'calcium',
			water: { calcium: 0 },
			sampleMl: 5,
			titrant: { molar: 0.06 },
			additions: []
		});
		expect(none.endPoint.ml!).toBeLessThan(0.01);
		expect(none.endPoint.equivalenceMl).toBe(0);
	});
});

describe('what an eye sees', () => {
	it('keeps white paper near white by day, and has every lamp darker', () => {
		const white = Array.from({ length: 31 }, () => 0.88);
		const by = (light: Light) => seen(white, light);
		expect(Math.max(...by('daylight')) - Math.min(...by('daylight'))).toBeLessThan(8);
		for (const light of Object.keys(LIGHTS) as Light[])
			if (light !== 'daylight') expect(lab(by(light)).l).toBeLessThan(lab(by('daylight')).l);
	});

	it('loses half of the last change of alkalinity’s colour under the blue lamp', () => {
		const near = (light: Light) => {
			const { frames } = run({
				analyte: 'alkalinity',
				sampleMl: 6,
				titrant: { molar: 0.036 },
				light,
				additions: [
					{ ml: 0.93 * 0.381, seconds: 3, swirl: 1 },
					{ ml: 0.14 * 0.381, seconds: 3, swirl: 1 }
				]
			});
			return apart(frames[0]!.colour, frames[1]!.colour);
		};
		expect(near('daylight')).toBeGreaterThan(15);
		expect(near('blue tank lamp')).toBeLessThan(0.62 * near('daylight'));
	});

	it('has comparators by Beer and Lambert: absorbance grows with what there is, and with time', () => {
		const at = (value: number, seconds: number, light: Light = 'daylight') =>
			run({
				analyte: 'phosphate',
				water: { phosphate: value },
				sampleMl: 10,
				light,
				additions: [{ ml: 0, seconds }]
			}).frames[0]!;
		// Through a dye twice as deep light falls as its square, where the eye's three bands are narrow enough: green by a tenth.
		const linear = (v: number) => (v / 255 <= 0.04045 ? v / 255 / 12.92 : ((v / 255 + 0.055) / 1.055) ** 2.4);
		const red = (value: number) => linear(at(value, 300).colour[0]) / linear(at(0, 300).colour[0]);
		expect(red(0.4)).toBeLessThan(red(0.2));
		expect(Math.abs(Math.log(red(0.2)) / Math.log(red(0.1)) - 2)).toBeLessThan(0.5);
		expect(at(0.4, 30).turned).toBeLessThan(0.35);
		expect(apart(at(0.4, 30).colour, at(0.4, 300).colour)).toBeGreaterThan(8);
		expect(titration({ analyte: 'nitrate', sampleMl: 10, additions: [{ ml: 1, seconds: 1 }] })).toMatchObject(
			{
				ok: false,
				problems: [{ path: '/additions/0/ml' }]
			}
		);
		expect(titration({ analyte: 'calcium', sampleMl: 10, additions: [] })).toMatchObject({
			ok: false,
			problems: [{ path: '/titrant' }]
		});
	});

	it('has a comparator pale before its time and deeper after it', () => {
		const growing = { dueSeconds: 300, withinSeconds: 120 };
		expect(grownTo(growing, 300)).toBeCloseTo(1, 2);
		expect(grownTo(growing, 90)).toBeLessThan(0.7);
		expect(grownTo(growing, 900)).toBeGreaterThan(1.3);
		const card = { values: [0, 2, 5, 10, 20, 40], dye: 'pink' as const, top: 1.1, flattens: 2.2, ink: 0.3 };
		const at = (seconds: number) => lab(vialColour({ card, ...growing }, 10, seconds, 'daylight')).l;
		expect(at(60)).toBeGreaterThan(at(300));
		expect(at(900)).toBeLessThan(at(300));
	});
});
