import { describe, expect, it } from 'vitest';
import { reading } from '../calculations';
import { type Method } from '../instruments';
import { SHIPPED_METHODS, isKnownValue, type Expected, type ReadingRequest } from '../methods';
import { COVERAGE_95 } from '../statistics';
import { convert, isQuantity } from '../quantities';
import { parameterOf } from '../catalogue';
import { drawKitBias, misread, normal, observeTrue, uniform } from '../simulate';
import { tries } from '../../../tests/support/length';
import { alternatives } from '.';

/** Spread of a forecast as a share of the band a settled tank keeps: about what a week of tests leaves. */
const FORECAST_SHARE = 0.12;
const READINGS = tries(400, 5_000);
/** Many misreadings move a value too little to count; past this many tries those found are enough. */
const MOST_TRIES = 3 * READINGS;

const KINDS = ['syringe', 'drops', 'shades', 'display', 'scale-line'] as const;
const method = (kind: Method['reads']) => SHIPPED_METHODS.filter((m) => m.reads === kind && !isKnownValue(m));

/** What such water shows, in the method's unit: mean and standard deviation. */
function population(m: Method): Expected {
	const parameter = parameterOf(m.parameter)!;
	const [low, high] = parameter.plausible.map((value) => {
		if (!isQuantity(m.parameter)) throw new Error(m.parameter);
		const there = convert({ quantity: m.parameter, value, from: parameter.unit, to: m.unit });
		if (!there.ok) throw new Error(JSON.stringify(there.problems));
		return there.value.value;
	}) as [number, number];
	// What is never negative is mostly little: half a bell from 0.
	return low <= 0
		? { mean: 0, standardDeviation: high / COVERAGE_95 }
		: { mean: (low + high) / 2, standardDeviation: (high - low) / 2 / COVERAGE_95 };
}

interface Tally {
	honest: number;
	questioned: number;
	misreadings: number;
	asked: number;
	first: number;
}

/** Honest readings and misreadings on kits of one kind; a misreading counts where it moves the value by four deviations. */
function simulate(kind: Method['reads'], history: boolean, seed: number): Tally {
	const random = uniform(seed);
	const chance = { random, gauss: normal(random) };
	const tally: Tally = { honest: 0, questioned: 0, misreadings: 0, asked: 0, first: 0 };
	const kits = method(kind);
	const ask = (request: ReadingRequest) => {
		const result = reading(request);
		return result.ok ? result.value : undefined;
	};
	for (let n = 0; n < MOST_TRIES && (tally.honest < READINGS || tally.misreadings < READINGS); n++) {
		const m = kits[n % kits.length]!;
		const water = population(m);
		const tank = Math.abs(water.mean + chance.gauss() * water.standardDeviation);
		const forecast = {
			mean: tank,
			standardDeviation: Math.max(FORECAST_SHARE * tank * 0.3, FORECAST_SHARE * water.standardDeviation)
		};
		const truth = Math.abs(history ? tank + chance.gauss() * forecast.standardDeviation : tank);
		const sample = m.samples?.[Math.floor(random() * m.samples.length)]?.id;
		const times = m.samples?.find((s) => s.id === sample)?.times ?? 1;
		const other = { calcium: { value: 420, standardUncertainty: 7 } };
		const total = truth + (m.takeAway ? m.takeAway.times * other.calcium.value : 0);
		const honest: ReadingRequest = {
			method: m,
			reading: observeTrue(m, total / times, drawKitBias(m, chance), chance),
			...(sample ? { sample } : {}),
			...(m.takeAway ? { other } : {}),
			...(history ? { expected: forecast } : {})
		};
		const right = ask(honest);
		if (!right || right.value === null) continue;
		if (tally.honest < READINGS) {
			tally.honest++;
			if (right.questions.length) tally.questioned++;
		}
		if (tally.misreadings >= READINGS) continue;
		const possible = [...new Set(alternatives(honest).map((a) => a.slip))];
		const slip = possible[Math.floor(random() * possible.length)];
		const misreadValue = slip && misread(honest, slip, random);
		const wrong = misreadValue && ask(misreadValue);
		if (!wrong || wrong.value === null) continue;
		const expected = history ? forecast : water;
		const predictive = Math.hypot(expected.standardDeviation, wrong.standardUncertainty ?? 0);
		if (Math.abs(wrong.value - right.value) <= 4 * predictive) continue;
		tally.misreadings++;
		if (wrong.questions.length) tally.asked++;
		if (wrong.questions[0]?.slip === slip) tally.first++;
	}
	return tally;
}

const percent = (part: number, of: number) => (of ? `${((100 * part) / of).toFixed(1)} %` : 'none');

describe('was it misread?', () => {
	for (const kind of KINDS)
		for (const history of [true, false])
			it(`${kind}, ${history ? 'with' : 'without'} history: asks about misreadings, leaves honest readings alone`, () => {
				const t = simulate(kind, history, 11);
				console.log(
					`measured: ${kind} ${history ? 'with' : 'without'} history: ${t.misreadings} misreadings, asked ${percent(t.asked, t.misreadings)}, ` +
						`right one first ${percent(t.first, t.misreadings)}; ${t.honest} honest, questioned ${percent(t.questioned, t.honest)}`
				);
				expect(t.honest).toBe(READINGS);
				expect(t.questioned / t.honest).toBeLessThanOrEqual(0.01);
				if (t.misreadings === 0) return;
				expect(t.asked / t.misreadings).toBeGreaterThanOrEqual(0.9);
				expect(t.first / t.misreadings).toBeGreaterThanOrEqual(0.85);
			});
});

describe('what is weighed against a misreading', () => {
	const alk = SHIPPED_METHODS.find((m) => m.id === 'alk-syringe-6')!;
	const card = SHIPPED_METHODS.find((m) => m.id === 'no3-card')!;
	const ask = (request: ReadingRequest) => {
		const result = reading(request);
		return result.ok ? result.value.questions : [];
	};

	it('is also that the water changed: a question is never as sure as without', () => {
		// Left for used: 0.41 for 0.59, where 8.4 was expected and 6.9 would be a large change.
		const expected = { mean: 9.9, standardDeviation: 0.3 };
		const [first] = ask({ method: alk, reading: { left: 0.59 }, expected });
		expect(first!.slip).toBe('left-used-swapped');
		// 0.9999 against the reading as given alone.
		expect(first!.probability).toBeLessThan(0.97);
	});

	it('asks nothing where the other reading has the same value', () => {
		const half = ask({ method: alk, reading: { left: 0.5 }, expected: { mean: 2, standardDeviation: 0.05 } });
		expect(half.map((q) => q.slip)).not.toContain('left-used-swapped');
		const nothing = ask({ method: card, reading: { shade: 0 } });
		expect(nothing).toEqual([]);
	});

	it('does not take little for odd where nothing lies below nothing', () => {
		expect(ask({ method: card, reading: { shade: 0.5 } })).toEqual([]);
		expect(ask({ method: card, reading: { shade: 20 } })).toEqual([]);
	});

	it('knows purified water, sea water, and that tap water may have anything', () => {
		expect(ask({ method: alk, reading: { left: 0.99 }, water: 'purified' })).toEqual([]);
		expect(ask({ method: alk, reading: { left: 0.02 }, water: 'purified' })[0]!.slip).toBe(
			'left-used-swapped'
		);
		expect(ask({ method: alk, reading: { left: 0.02 }, water: 'tap' })).toEqual([]);
		expect(ask({ method: alk, reading: { left: 0.39 }, water: 'sea' })[0]!.slip).toBe('left-used-swapped');
	});
});

it('asks whether a number counts a dilution already, where without it the water is a usual one', () => {
	const card: Method = {
		...(SHIPPED_METHODS.find((m) => m.id === 'no3-card')! as Extract<Method, { reads: 'shades' }>),
		shades: [0, 5, 10, 25, 50],
		columns: []
	};
	const diluted = (shade: number, expected?: Expected) => {
		const made = reading({
			method: card,
			reading: { shade, dilution: { sampleMl: 1, waterMl: 9 } },
			...(expected ? { expected } : {})
		});
		if (!made.ok) throw new Error(JSON.stringify(made.problems));
		return made.value.questions.map((q) => [q.slip, q.value]);
	};
	expect(diluted(50)).toContainEqual(['column', 50]);
	expect(diluted(50, { mean: 47, standardDeviation: 5 })[0]).toEqual(['column', 50]);
	expect(diluted(5, { mean: 55, standardDeviation: 10 })).toEqual([]);
});
