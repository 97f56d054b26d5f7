import { describe, expect, it } from 'vitest';
import { nth } from '../base';
import { normal, uniform } from '../statistics';
import { countableOf } from './counting';
import { hand, spreadOf } from './technique';
import { aslantDrop, fullSyringe, press, touchOff } from './pour';
import { afterLook, eyeBy, nextSteps, noLooks, type Seen } from './staircase';
import { dropsTruth, syringeTruth } from './truth';
import { tries } from '../../../tests/support/length';

/** Hands of several laws, each of mean 0 and variance 1: none is what the intervals were derived for but the first. */
const LAWS: Record<string, (random: () => number, gauss: () => number) => number> = {
	normal: (_, gauss) => gauss(),
	'even over a drop': (random) => Math.sqrt(12) * (random() - 0.5),
	'too far now and then': (random) => -Math.log(1 - random()) - 1,
	'mostly steady, sometimes not': (random, gauss) => (gauss() * (random() < 0.1 ? 2 : 1)) / Math.sqrt(1.3)
};

describe('what a hand is worth', () => {
	it.each(Object.entries(LAWS))('finds bias and scatter within their errors: %s', (_, law) => {
		const random = uniform(11);
		const gauss = normal(random);
		const counts = { bias: 0, scatter: 0 };
		const HANDS = 1500;
		for (let i = 0; i < HANDS; i++) {
			const [bias, scatter] = [2 * random() - 0.5, 0.2 + random()];
			const drops = Array.from({ length: 20 }, () => bias + scatter * law(random, gauss));
			const found = spreadOf(drops)!;
			if (Math.abs(found.bias - bias) <= 1.96 * found.standardUncertainty) counts.bias++;
			if (found.interval[0] <= scatter && scatter <= found.interval[1]) counts.scatter++;
		}
		// Told with care: 95 % of the hand that goes too far now and then, more of the others.
		expect(counts.bias / HANDS).toBeGreaterThan(0.935);
		expect(counts.bias / HANDS).toBeLessThan(0.99);
		expect(counts.scatter / HANDS).toBeGreaterThan(0.935);
	});

	it.each([
		[
			'as the staircase has it',
			(z: number, scatter: number) => 1 / (1 + Math.exp(-1.702 * (z / scatter))),
			0.02
		],
		[
			'with slips of the finger',
			(z: number, scatter: number) => 1 / (1 + Math.exp(-1.702 * (z / scatter))),
			0.07
		],
		[
			'by a Weibull function',
			(z: number, scatter: number) => 1 - 0.5 * Math.exp(-((z / (scatter * 0.96)) ** 1.35)),
			0.02
		]
	])('finds the smallest difference of an eye %s in 40 looks', (_, law, lapses) => {
		const random = uniform(3);
		const EYES = tries(100, 250);
		let held = 0;
		let off = 0;
		for (let i = 0; i < EYES; i++) {
			const scatter = 10 ** (-1.3 + 1.1 * random());
			const looks: Seen[] = [];
			let belief = noLooks();
			for (let k = 0; k < 40; k++) {
				const steps = nextSteps(belief);
				looks.push({ steps, right: random() < lapses ? random() < 0.5 : random() < law(steps, scatter) });
				belief = afterLook(belief, nth(looks, k));
			}
			// What it tells three times in four, by its own law.
			let [low, high] = [0, 10];
			for (let k = 0; k < 40; k++) {
				const middle = (low + high) / 2;
				if (law(middle, scatter) < 0.75) low = middle;
				else high = middle;
			}
			const known = eyeBy(looks);
			if (known.interval[0] <= low && low <= known.interval[1]) held++;
			off += Math.abs(Math.log(known.smallest / low));
		}
		expect(held / EYES).toBeGreaterThan(0.925);
		expect(off / EYES).toBeLessThan(0.3);
	});

	it('asks for less after every right answer, and never for more than the card has', () => {
		let belief = noLooks();
		let last = nextSteps(belief);
		for (let i = 0; i < 12; i++) {
			belief = afterLook(belief, { steps: last, right: true });
			expect(nextSteps(belief)).toBeLessThanOrEqual(last);
			last = nextSteps(belief);
		}
		expect(last).toBeLessThan(0.1);
		for (let i = 0; i < 40; i++) belief = afterLook(belief, { steps: 1.2, right: i % 2 === 0 });
		expect(nextSteps(belief)).toBe(1.2);
	});

	it('keeps lamps, parameters and instruments apart, and says when there are enough', () => {
		const over = (n: number, light: 'daylight' | 'blue tank lamp', parameter = 'calcium') =>
			Array.from({ length: n }, (_, i) => ({
				instrument: 'syringe' as const,
				parameter,
				light,
				over: (i % 3) / 2
			}));
		const outcome = hand({
			endPoints: [
				...over(12, 'daylight'),
				...over(4, 'blue tank lamp'),
				...over(1, 'daylight', 'alkalinity')
			],
			looks: [{ parameter: 'nitrate', light: 'daylight', steps: 1, right: true }]
		});
		if (!outcome.ok) throw new Error('has no problems');
		expect(outcome.value.endPoints.map((e) => [e.light, e.parameter, e.tries, e.enough])).toEqual([
			['daylight', 'calcium', 12, true],
			['blue tank lamp', 'calcium', 4, false]
		]);
		expect(outcome.value.plunger).toBeNull();
		expect(outcome.value.eyes[0]).toMatchObject({ looks: 1, enough: false });
	});

	it('is let count by instrument, parameter and lamp; a plunger read off and unsteadily is both, on a syringe alone', () => {
		const found = (plungers: { off: number }[]) => {
			const ends = (['syringe', 'drops'] as const).flatMap((instrument) =>
				[0.4, 0.6, 0.5, 0.5].map((over) => ({
					instrument,
					parameter: 'calcium',
					light: 'daylight' as const,
					over
				}))
			);
			const outcome = hand({ endPoints: ends, plungers });
			if (!outcome.ok) throw new Error('has no problems');
			return { plunger: outcome.value.plunger, counts: countableOf(outcome.value) };
		};
		const steady = found(Array.from({ length: 30 }, (_, i) => ({ off: 0.3 + (i % 2 ? 0.4 : -0.4) })));
		expect(steady.counts.map((c) => `${c.instrument} ${c.parameter} ${c.light}`).sort()).toEqual([
			'drops calcium daylight',
			'syringe calcium daylight'
		]);
		const lines = (instrument: string) => steady.counts.find((c) => c.instrument === instrument)!.hand.lines;
		expect(lines('syringe')! ** 2).toBeCloseTo(0.3 ** 2 + steady.plunger!.next ** 2, 9);
		expect(lines('drops')).toBeUndefined();
		// Two looks at a plunger say nothing yet.
		expect(found([{ off: 3 }, { off: 3 }]).counts.map((c) => c.hand.lines)).toEqual([undefined, undefined]);
	});
});

describe('a hand on a syringe', () => {
	it('sticks, then drips, and streams when pressed hard; nothing is lost', () => {
		const pressed = (force: number, seconds: number) => {
			let syringe = fullSyringe(1, 0.012, 4);
			let [fell, drops, streamed] = [0, 0, false];
			for (let t = 0; t < seconds; t += 1 / 60) {
				const next = press(syringe, force, 1 / 60);
				syringe = next.syringe;
				fell += next.fell;
				drops += next.fallen;
				streamed ||= next.stream;
			}
			return { syringe, fell, drops, streamed };
		};
		expect(pressed(0.2, 2).fell).toBe(0);
		const slow = pressed(0.25, 3);
		expect(slow.streamed).toBe(false);
		expect(slow.drops).toBeGreaterThan(5);
		expect(slow.drops).toBeLessThan(15);
		expect(pressed(0.9, 1).streamed).toBe(true);
		for (const { syringe, fell } of [slow, pressed(0.9, 1), pressed(1, 10)]) {
			expect(1 - syringe.edge).toBeCloseTo(fell + syringe.hanging, 9);
			expect(syringe.edge).toBeGreaterThanOrEqual(0);
		}
		expect(touchOff(slow.syringe).fell).toBe(slow.syringe.hanging);
		expect(aslantDrop(60)).toBeLessThan(0.8);
	});
});

describe('the same hand at another pace of the screen', () => {
	it.each([30, 60, 120, 240])('gives the same drops at %i frames a second', (hz) => {
		let syringe = fullSyringe(1, 0.012, 9);
		let fell = 0;
		const sizes: number[] = [];
		for (let frame = 0; frame < 4 * hz; frame++) {
			// A thumb that presses a second and rests a second.
			const next = press(syringe, Math.floor(frame / hz) % 2 ? 0 : 0.27, 1 / hz);
			if (next.fallen) sizes.push(next.fell / next.fallen);
			fell += next.fell;
			syringe = next.syringe;
		}
		expect(fell).toBeGreaterThan(0.07);
		expect(fell).toBeLessThan(0.11);
		for (const ml of sizes) expect(Math.abs(ml / 0.012 - 1)).toBeLessThan(0.45);
		expect(1 - syringe.edge).toBeCloseTo(fell + syringe.hanging, 9);
	});

	it('an empty syringe gives nothing, however hard it is pressed', () => {
		let syringe = fullSyringe(1, 0.012, 2, 0.02);
		let fell = 0;
		for (let frame = 0; frame < 200; frame++) {
			const next = press(syringe, 1, 1 / 60);
			syringe = next.syringe;
			fell += next.fell;
		}
		expect(syringe.edge).toBe(0);
		expect(fell).toBeLessThanOrEqual(0.02 + 1e-12);
	});
});

describe('where an error came from', () => {
	const attempt = {
		fullMl: 1,
		startEdge: 0.985,
		endEdge: 0.37,
		airMl: 0.04,
		hangingMl: 0.005,
		fellMl: 0.61,
		saidLeft: 0.36,
		refills: 0,
		saidRefills: 0,
		endMl: 0.59,
		nominalEndMl: 0.6
	};

	it('adds up to the whole of it, for any hand', () => {
		const random = uniform(2);
		for (let i = 0; i < 200; i++) {
			const startEdge = 1 - 0.03 * random();
			const hangingMl = 0.01 * random();
			const fellMl = 0.8 * random();
			const t = {
				...attempt,
				startEdge,
				hangingMl,
				fellMl,
				endEdge: startEdge - hangingMl - fellMl,
				saidLeft: random(),
				endMl: 0.5 * random(),
				nominalEndMl: 0.5 * random()
			};
			const { saidMl, trueMl, causes } = syringeTruth(t);
			expect(causes.reduce((sum, c) => sum + c.ml, 0)).toBeCloseTo(saidMl - trueMl, 5);
			const d = {
				dropMl: 0.05,
				said: Math.floor(30 * random()),
				fallen: 12,
				fellMl,
				endMl: 0.5,
				nominalEndMl: 0.55
			};
			const drops = dropsTruth(d);
			expect(drops.causes.reduce((sum, c) => sum + c.ml, 0)).toBeCloseTo(drops.saidMl - drops.trueMl, 5);
		}
	});

	it('knows left for used, the liquid’s edge and a forgotten refill by their figures', () => {
		expect(syringeTruth({ ...attempt, saidLeft: 0.63 }).slip).toBe('left-for-used');
		expect(syringeTruth({ ...attempt, saidLeft: 0.33 }).slip).toBe('liquid-edge');
		expect(syringeTruth({ ...attempt, saidLeft: 0.37, refills: 1, fellMl: 1.61 }).slip).toBe('refill');
		expect(syringeTruth(attempt).slip).toBeUndefined();
	});
});
