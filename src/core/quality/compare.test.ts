import { describe, expect, it } from 'vitest';
import { tries } from '../../../tests/support/length';
import { chiSquareQuantile, normal, uniform } from '../statistics';
import { compare } from './compare';
import type { CompareRequest, CompareResult } from './schema';
import { scorecard } from './scorecard';
import { waters } from './waters';

const of = (request: CompareRequest): CompareResult => {
	const outcome = compare(request);
	if (!outcome.ok) throw new Error();
	return outcome.value;
};
const side = (value: number, repeatability = 0.1, trueness = 0.2) => ({
	value,
	repeatability,
	standardUncertainty: Math.hypot(repeatability, trueness)
});
const pairs = (...values: [number, number][]) => values.map(([a, b]) => ({ a: side(a), b: side(b) }));

describe('two kits on the same water', () => {
	it('7.9 against 8.5 is more than hands do, and no more than the kits allow themselves: a reference tells', () => {
		const { difference, chance, verdict, next, pairsToTell } = of({ pairs: pairs([7.9, 8.5]) });
		expect(difference.value).toBeCloseTo(-0.6, 12);
		expect(difference.standardUncertainty).toBeCloseTo(Math.SQRT2 * 0.1, 12);
		expect(chance.scatter).toBeLessThan(0.001);
		expect(chance.kits).toBeGreaterThan(0.05);
		expect([verdict, next, pairsToTell]).toEqual(['kits-differ', 'reference', 1]);
	});
	it('is nothing where scatter does it, after one pair more', () => {
		expect(of({ pairs: pairs([8, 8.2]) })).toMatchObject({ verdict: 'no-difference', next: 'repeat' });
		expect(of({ pairs: pairs([8, 8.2], [8.1, 8]) })).toMatchObject({
			verdict: 'no-difference',
			next: 'nothing'
		});
		expect(of({ pairs: pairs([8, 8]) }).pairsToTell).toBeNull();
	});
	it('names who agrees with what is known', () => {
		const its = of({
			pairs: pairs([8.0, 9.2], [8.05, 9.25]),
			known: { value: 8.05, standardUncertainty: 0.05 }
		});
		expect(its).toMatchObject({ verdict: 'one-is-off', next: 'nothing', known: { agrees: 'a' } });
		expect(of({ pairs: pairs([8, 8.1]), known: { value: 8, standardUncertainty: 0.1 } }).known!.agrees).toBe(
			'both'
		);
		expect(of({ pairs: pairs([8, 8.1]), known: { value: 9, standardUncertainty: 0.1 } }).known!.agrees).toBe(
			'neither'
		);
	});
	it('calls differences that are none so in 95 %, and finds those there are with the power it promises', () => {
		const gauss = normal(uniform(21));
		const rounds = tries(3000, 30_000);
		const told = (difference: number, n: number) => {
			let found = 0;
			for (let i = 0; i < rounds; i++)
				if (
					of({
						pairs: Array.from({ length: n }, () => ({
							a: side(8 + 0.1 * gauss()),
							b: side(8 + difference + 0.1 * gauss())
						}))
					}).verdict !== 'no-difference'
				)
					found++;
			return found / rounds;
		};
		expect(told(0, 4)).toBeGreaterThan(0.03);
		expect(told(0, 4)).toBeLessThan(0.065);
		const many = of({ pairs: pairs([8, 8.2]) }).pairsToTell!;
		expect(many).toBe(Math.ceil((2.802 * Math.SQRT2 * 0.1) ** 2 / 0.2 ** 2));
		expect(told(0.2, many)).toBeGreaterThan(0.77);
	});
	it('has the limits of agreement of Bland and Altman’s peak flow meters', () => {
		// 17 people, first reading of each meter (Bland & Altman 1986, table 1): mean −2.1, SD 38.8 L/min.
		const wright = [494, 395, 516, 434, 476, 557, 413, 442, 650, 433, 417, 656, 267, 478, 178, 423, 427];
		const mini = [512, 430, 520, 428, 500, 600, 364, 380, 658, 445, 432, 626, 260, 477, 259, 350, 451];
		const its = of({ pairs: wright.map((w, i) => ({ a: side(w, 20), b: side(mini[i]!, 20) })) });
		const middle = (its.limits!.lower + its.limits!.upper) / 2;
		const sd = (its.limits!.upper - its.limits!.lower) / (2 * 1.96);
		expect(middle).toBeCloseTo(-2.1, 1);
		expect(sd).toBeCloseTo(38.8, 1);
		expect(its.limits!.standardUncertainty).toBeCloseTo(sd * Math.sqrt(3 / 17), 6);
		expect(its.line!.slope.value).toBeCloseTo(1, 1);
	});
	it('draws a line where its slope’s interval holds, and none from points that are on one spot but for their scatter', () => {
		const gauss = normal(uniform(61));
		const random = uniform(62);
		const rounds = tries(1500, 15_000);
		for (const slope of [0.85, 1, 1.2])
			for (const [range, pairs] of [
				[0.2, 8],
				[0.5, 8],
				[0.8, 8],
				[0.8, 20],
				[2, 12]
			] as const) {
				let [drawn, held] = [0, 0];
				for (let i = 0; i < rounds; i++) {
					const its = of({
						pairs: Array.from({ length: pairs }, () => {
							const x = range * random();
							return { a: side(8 + x + 0.1 * gauss()), b: side(2 + slope * x + 0.1 * gauss()) };
						})
					}).line;
					if (!its) continue;
					drawn++;
					if (Math.abs(its.slope.value - slope) <= 1.96 * its.slope.standardUncertainty) held++;
				}
				if (range < 0.3) expect(drawn / rounds).toBeLessThan(0.01);
				else if (drawn > 0.2 * rounds)
					expect(held / drawn, `${slope} ${range} ${pairs}`).toBeGreaterThan(0.92);
				if (range === 2) expect(drawn).toBe(rounds);
			}
	});
	it('draws a line from six pairs on that do not lie on one spot', () => {
		const along = pairs([6, 6.6], [7, 7.7], [8, 8.8], [9, 9.9], [10, 11], [11, 12.1]);
		const line = of({ pairs: along }).line!;
		expect(line.slope.value).toBeCloseTo(1.1, 6);
		expect(line.intercept.value).toBeCloseTo(0, 6);
		expect(line.chance).toBeLessThan(0.001);
		expect(of({ pairs: along.slice(1) }).line).toBeUndefined();
		expect(
			of({ pairs: pairs(...Array.from({ length: 8 }, (): [number, number] => [8, 8.01])) }).line
		).toBeUndefined();
	});
});

describe('a scorecard', () => {
	const made = (request: Parameters<typeof scorecard>[0]) => {
		const outcome = scorecard(request);
		if (!outcome.ok) throw new Error();
		return outcome.value;
	};
	it('has the middle of times and errors, the cost of one, and who is best at what', () => {
		const its = made({
			methods: [
				{
					id: 'syringe',
					times: [
						{ hands: 180, wait: 0 },
						{ hands: 240, wait: 0 },
						{ hands: 900, wait: 10 }
					],
					pack: { tests: 90, price: 18 },
					errors: [0.2, 0.3, 0.2],
					slips: { readings: 40, asked: 2, admitted: 1 },
					bias: { value: 0.3, standardUncertainty: 0.1 }
				},
				{ id: 'drops', times: [{ hands: 90, wait: 0 }], pack: { tests: 50, price: 15 }, errors: [0.5] }
			]
		});
		expect(its.methods[0]).toMatchObject({
			hands: 240,
			cost: 0.2,
			standardUncertainty: 0.2,
			slips: { asked: 0.05, admitted: 0.025 }
		});
		expect(its.methods[0]!.bias!.chance).toBeCloseTo(0.0027, 4);
		expect(its).toMatchObject({ surest: 'syringe', quickest: 'drops', cheapest: 'syringe' });
		expect(made({ methods: [{ id: 'only', errors: [1] }] }).surest).toBeUndefined();
	});
	it('finds the scatter of one test from duplicates, within its interval 95 in 100', () => {
		expect(
			made({ methods: [{ id: 'a', duplicates: [{ a: 8, b: 8.2, repeatability: 0.1 }] }] }).methods[0]!.scatter
		).toMatchObject({
			value: expect.closeTo(0.2 / Math.SQRT2, 9) as number,
			pairs: 1
		});
		const gauss = normal(uniform(31));
		const rounds = tries(1500, 15_000);
		let held = 0;
		for (let i = 0; i < rounds; i++) {
			const duplicates = Array.from({ length: 8 }, () => ({
				a: 8 + 0.15 * gauss(),
				b: 8 + 0.15 * gauss(),
				repeatability: 0.15
			}));
			const [low, high] = made({ methods: [{ id: 'a', duplicates }] }).methods[0]!.scatter!.interval;
			if (low <= 0.15 && 0.15 <= high) held++;
		}
		expect(held / rounds).toBeGreaterThan(0.935);
		expect(held / rounds).toBeLessThan(0.965);
	});
	it('has no scatter of nothing from the same twice: what the method says of itself stands, widely', () => {
		const scatter = (pairs: number) =>
			made({
				methods: [
					{ id: 'a', duplicates: Array.from({ length: pairs }, () => ({ a: 5, b: 5, repeatability: 0.4 })) }
				]
			}).methods[0]!.scatter!;
		expect(scatter(3).value).toBeCloseTo(0.4, 12);
		expect(scatter(3).interval[1] / scatter(3).interval[0]).toBeGreaterThan(5);
		expect(scatter(3).chance).toBeGreaterThan(0.2);
	});
	it('has the chi-square quantiles of the tables', () => {
		expect(chiSquareQuantile(0.95, 4)).toBeCloseTo(9.488, 3);
		expect(chiSquareQuantile(0.025, 10)).toBeCloseTo(3.247, 3);
		expect(chiSquareQuantile(0.975, 1)).toBeCloseTo(5.024, 3);
	});
});

describe('waters side by side', () => {
	const made = (request: Parameters<typeof waters>[0]) => {
		const outcome = waters(request);
		if (!outcome.ok) throw new Error(JSON.stringify(outcome.problems));
		return outcome.value;
	};
	const level = (value: number, standardUncertainty = 1) => ({ value, standardUncertainty });
	it('beside sea water at its own salinity: what is thin is not short of anything', () => {
		const at35 = made({
			a: { salinity: level(35, 0), calcium: level(421.6, 5), alkalinity: level(6.6, 0.1) }
		});
		expect(at35.against).toBe('sea water');
		// 412 mg/kg at 1.0233 kg/L; 2.300 mmol/kg are 6.60 dKH.
		expect(at35.differences['calcium']!.b).toBeCloseTo(421.6, 1);
		expect(at35.differences['alkalinity']!.b).toBeCloseTo(6.6, 2);
		const thin = made({ a: { salinity: level(31.5, 0), calcium: level(378.5, 5) } });
		expect(thin.differences['calcium']!.chance).toBeGreaterThan(0.9);
		// Salinity's own error is in it.
		const vague = made({ a: { salinity: level(31.5, 1), calcium: level(378.5, 5) } });
		expect(vague.differences['calcium']!.standardUncertainty).toBeCloseTo(Math.hypot(5, 378.4 / 31.5), 2);
	});
	it('beside another water, where both are known', () => {
		const its = made({
			a: { nitrate: level(20, 2), phosphate: level(0.1, 0.02) },
			b: { nitrate: level(0.5, 0.5), silicate: level(1, 0.2) }
		});
		expect(Object.keys(its.differences)).toEqual(['nitrate']);
		expect(its.differences['nitrate']!.chance).toBeLessThan(1e-6);
		const none = waters({ a: { nitrate: level(1) } });
		expect(none.ok ? '' : none.problems[0]!.path).toBe('/a');
	});
});
