import { differenceCiede2000, useMode, modeLab65, modeRgb } from 'culori/fn';
import { describe, expect, it } from 'vitest';
import { LIGHTS, type Light } from '../photograph';
import { uniform } from '../statistics';
import { grownTo, vialColour } from './growth';
import { seen } from './sight';
import { titration } from './titration';
import type { TitrationRequest } from './schema';
import { SEA, dropsFrom } from './vial';

useMode(modeRgb);
const lab65 = useMode(modeLab65);
const lab = ([r, g, b]: number[]) => lab65({ mode: 'rgb', r: r! / 255, g: g! / 255, b: b! / 255 })!;
const apart = (a: number[], b: number[]) => differenceCiede2000()(lab(a), lab(b));
const run = (request: TitrationRequest) => {
	const outcome = titration(request);
	if (!outcome.ok) throw new Error(JSON.stringify(outcome.problems));
	return outcome.value;
};

const close = (a: number, b: number) => Math.abs(a / b - 1);

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
		expect((drops.length - whole.length) / drops.length).toBeCloseTo(1 / 30, 3);
		expect(drops[7]).toEqual(Array.from({ length: 8 }, dropsFrom(0.05, 3))[7]);
	});

	it('says what cannot be: another kind of indicator, a precipitant for calcium, a pH that nothing holds', () => {
		const little = {
			analyte: 'alkalinity' as const,
			water: { alkalinity: 0.2, ph: 9.4 },
			sampleMl: 5,
			titrant: { molar: 0.03 }
		};
		expect(titration({ ...little, additions: [] })).toMatchObject({
			ok: false,
			problems: [{ path: '/water/ph' }]
		});
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
