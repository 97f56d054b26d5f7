import { describe, expect, it } from 'vitest';
import { tries } from '../../../tests/support/length';
import { COUPLED_LAWS, normal, simulateCoupled, uniform, type CoupledLaw } from '../simulate';
import { tank } from './tank';
import type { TankRequest, TankResult } from './tank-schema';
import { trend } from './trend';
import { inputsFor } from './water-events';

const solved = (request: TankRequest): TankResult => {
	const outcome = tank(request);
	if (!outcome.ok) throw new Error(JSON.stringify(outcome.problems));
	return outcome.value;
};
const day = (n: number) => new Date(Date.parse('2026-01-01T12:00:00Z') + n * 86_400_000).toISOString();

/** Interval score of a 95 % interval: its width, and what lies outside of it forty times (Gneiting and Raftery 2007). */
const scoreOf = (truth: number, { mean, sd }: { mean: number; sd: number }): number => {
	const [low, high] = [mean - 1.96 * sd, mean + 1.96 * sd];
	return high - low + 40 * (Math.max(0, low - truth) + Math.max(0, truth - high));
};

interface Score {
	together: number;
	alone: number;
	inside: number;
	tanks: number;
}

/** Calcium in 28 days, of many tanks of one law: score together and alone, and how often the truth is inside. */
function calciumIn28(law: CoupledLaw, tanks: number): Score {
	const score: Score = { together: 0, alone: 0, inside: 0, tanks };
	for (let seed = 1; seed <= tanks; seed++) {
		const { parameters, events, now, levelIn } = simulateCoupled(seed * 37, law);
		const truth = levelIn('calcium', 28);
		const joint = solved({ parameters, events, now, horizonDays: 28 }).parameters['calcium']!.forecast[28]!;
		const { unit, readings } = parameters['calcium']!;
		const own = trend({
			parameter: 'calcium',
			unit,
			readings,
			events: inputsFor('calcium', events),
			now,
			horizonDays: 28
		});
		if (!own.ok) throw new Error(JSON.stringify(own.problems));
		score.together += scoreOf(truth, joint);
		score.alone += scoreOf(truth, own.value.forecast[28]!);
		if (Math.abs(truth - joint.mean) <= 1.96 * joint.sd) score.inside++;
	}
	return score;
}
const ratio = ({ together, alone }: Score) => together / alone;
const covered = ({ inside, tanks }: Score) => (100 * inside) / tanks;
const told = (law: string, score: Score): Score => {
	console.log(
		`measured: tank, ${law}: calcium in 28 days scores ${ratio(score).toFixed(2)} of alone over ${score.tanks} tanks, covered ${covered(score).toFixed(1)} %`
	);
	return score;
};

describe('all parameters as one water', () => {
	it('says of a dosing pump that was mended what is said of alkalinity alone, and of one that works again', () => {
		const gauss = normal(uniform(3));
		const tests = [...Array.from({ length: 20 }, (_, i) => 3 * i), 59, 61, 63, 64, 67, 70, 75].map((d) => ({
			at: day(d),
			value: 8.4 - 0.7 * Math.min(6, Math.max(0, d - 57)) + 0.1 * gauss(),
			standardUncertainty: 0.12
		}));
		const calcium = [0, 25, 50, 75].map((d) => ({
			at: day(d),
			value: 420 + 4 * gauss(),
			standardUncertainty: 6
		}));
		const dosingPump = [-1, 63.2].map((d) => ({ at: day(d), kind: 'dosing' as const, perDay: 0.7 }));
		for (const [readings, now, off] of [
			[tests.slice(0, 24), day(65), 0.25],
			[tests, day(77), 0.05]
		] as const) {
			const both = solved({
				parameters: {
					alkalinity: { unit: 'dKH', readings: [...readings] },
					calcium: { unit: 'mg/L', readings: calcium.filter((r) => r.at <= now) }
				},
				events: dosingPump.map((e) => ({ ...e, parameter: 'alkalinity' })),
				now
			}).parameters['alkalinity']!;
			const alone = trend({
				parameter: 'alkalinity',
				unit: 'dKH',
				readings: [...readings],
				events: dosingPump,
				now
			});
			if (!alone.ok) throw new Error(JSON.stringify(alone.problems));
			expect(Math.abs(both.netPerDay.value)).toBeLessThan(off);
			expect(Math.abs(both.usePerDay.value - 0.7)).toBeLessThan(off);
			expect(Math.abs(both.usePerDay.value - alone.value.usePerDay.value)).toBeLessThan(off / 2);
		}
	});

	it('knows calcium better by alkalinity, by whatever law it is used, and is not led astray where they go apart', () => {
		// The bars are 0.8 and 93-97 % over coupled tanks, 1.03 over those that go apart. What a sample leaves open is left:
		// two hundred tanks tell the coverage to 1.5 % and a ratio to 0.05, two thousand to a third of it.
		const found = COUPLED_LAWS.map((law) => told(law, calciumIn28(law, tries(12, 250))));
		const all = told(
			'all laws of coupled tanks',
			found.reduce((a, b) => ({
				together: a.together + b.together,
				alone: a.alone + b.alone,
				inside: a.inside + b.inside,
				tanks: a.tanks + b.tanks
			}))
		);
		expect(ratio(all)).toBeLessThan(tries(0.85, 0.8));
		expect(covered(all)).toBeGreaterThan(tries(91.5, 93));
		expect(covered(all)).toBeLessThan(tries(98.5, 97));
		const apart = told('apart', calciumIn28('apart', tries(80, 800)));
		expect(ratio(apart)).toBeLessThan(tries(1.15, 1.03));
		expect(covered(apart)).toBeGreaterThan(tries(85, 89));
	}, 1_800_000);

	/** Weekly alkalinity and monthly calcium of a tank that uses more than is dosed, in ratio; the last calcium is off by `by`. */
	const using = (by: number): TankRequest => {
		const gauss = normal(uniform(4));
		const test = (d: number, value: number, standardUncertainty: number) => ({
			at: day(d),
			value: value + 0.5 * standardUncertainty * gauss(),
			standardUncertainty
		});
		const falls = (d: number) => -0.03 * d;
		return {
			parameters: {
				alkalinity: {
					unit: 'dKH',
					readings: Array.from({ length: 25 }, (_, i) => test(i * 7, 10.5 + falls(i * 7), 0.15))
				},
				calcium: {
					unit: 'mg/L',
					readings: Array.from({ length: 7 }, (_, i) =>
						test(i * 28, 460 + 7.15 * falls(i * 28) + (i === 6 ? by : 0), 5)
					)
				}
			},
			now: day(168)
		};
	};

	it('names a test that fits its own past but not its neighbours', () => {
		expect(solved(using(0)).suspects).toEqual([]);
		const found = solved(using(38));
		expect(found.suspects).toEqual([
			{ parameter: 'calcium', index: 6, probability: expect.any(Number) as number }
		]);
	});

	it('says what it learnt, and that they go together', () => {
		const { coupling, parameters } = solved(using(0));
		expect(coupling!.probability).toBeGreaterThan(0.8);
		expect(coupling!.sharpened['calcium']).toBeGreaterThan(0.05);
		expect(coupling!.calcification!.alkalinityPerDay).toBeGreaterThan(0);
		expect(parameters['calcium']!.path.at(-1)!.mean).toBeCloseTo(parameters['calcium']!.now.value, 0);
	});

	/** Parameters that were each tested every few days for twelve weeks, by laws of their own. */
	const tested = (
		laws: Record<string, { unit: string; error: number; law: (d: number) => number }>
	): TankResult => {
		const gauss = normal(uniform(6));
		return solved({
			parameters: Object.fromEntries(
				Object.entries(laws).map(([parameter, { unit, error, law }]) => [
					parameter,
					{
						unit,
						readings: Array.from({ length: 28 }, (_, i) => ({
							at: day(3 * i),
							value: law(3 * i) + error * gauss(),
							standardUncertainty: error
						}))
					}
				])
			),
			now: day(84),
			horizonDays: 28
		});
	};
	const wave = (d: number) => 4 * Math.sin(d / 12);

	it('learns in which ratio calcium goes with alkalinity, and how well that is known', () => {
		const [less, more] = [0.7, 1.35].map(
			(ratio) =>
				tested({
					alkalinity: { unit: 'dKH', error: 0.1, law: (d) => 9 + 0.5 * wave(d) },
					calcium: { unit: 'mg/L', error: 2, law: (d) => 430 + ratio * 7.15 * 0.5 * wave(d) }
				}).coupling!
		);
		expect(less!.ratio.value).toBeLessThan(0.97);
		expect(more!.ratio.value).toBeGreaterThan(1.1);
		for (const { ratio } of [less!, more!]) expect(ratio.standardDeviation).toBeGreaterThan(0.05);
	});

	it('claims no skeleton where alkalinity is eaten by acid', () => {
		const { coupling } = tested({
			alkalinity: { unit: 'dKH', error: 0.1, law: (d) => 9 + 0.5 * wave(d) },
			calcium: { unit: 'mg/L', error: 2, law: () => 430 }
		});
		expect(coupling!.probability).toBeLessThan(0.5);
		expect(coupling!.calcification).toBeNull();
	});

	it('a salinity that drifts carries the ions ahead; one that stands does not', () => {
		const [drifts, stands] = [0.06, 0].map((perDay) => {
			const salt = (d: number) => 33 + perDay * d;
			const { forecast } = tested({
				salinity: { unit: 'PSU', error: 0.15, law: salt },
				magnesium: { unit: 'mg/L', error: 15, law: (d) => (1250 * salt(d)) / 33 }
			}).parameters['magnesium']!;
			return [forecast[28]!.mean - forecast[0]!.mean, forecast[28]!.sd] as const;
		});
		// 28 days of 0.06 PSU are a twentieth of the salt: 64 mg/L.
		expect(drifts![0]).toBeGreaterThan(30);
		expect(Math.abs(stands![0])).toBeLessThan(25);
	});

	it('knows a parameter better by its neighbours with an odd test too, and leaves one without neighbours to itself', () => {
		const odd = using(-150);
		const later = { ...odd, now: day(168) };
		const { parameters, suspects } = solved(later);
		const alone = solved({ ...later, parameters: { calcium: odd.parameters['calcium']! } });
		expect(alone.coupling).toBeNull();
		const [together, itself] = [parameters['calcium']!, alone.parameters['calcium']!];
		// Its own past finds it odd, which needs no neighbours.
		for (const { odd } of [together, itself]) expect(odd.map((o) => o.index)).toEqual([6]);
		expect(suspects).toEqual([]);
		expect(together.now.standardDeviation).toBeLessThan(0.8 * itself.now.standardDeviation);
		expect(Math.abs(together.now.value - 424)).toBeLessThan(2 * together.now.standardDeviation);
	});

	it('says in which parameter something is wrong', () => {
		const outcome = tank({ ...using(0), now: '2025-01-01T00:00:00Z' });
		expect(!outcome.ok && outcome.problems[0]!.path).toBe('/parameters/alkalinity/readings');
	});
});
