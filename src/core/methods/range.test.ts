import { expect, it } from 'vitest';
import { normal, uniform } from '../statistics';
import { SHIPPED_METHODS, read, type Dilution, type Method, type RawReading } from '.';

const method = (id: string): Method => SHIPPED_METHODS.find((m) => m.id === id)!;
const measured = (of: Method, reading: RawReading) => {
	const outcome = read({ method: of, reading });
	if (!outcome.ok) throw new Error(JSON.stringify(outcome.problems));
	return outcome.value;
};
const TRIES = 1500;

/**
 * Shares of tries in which the range holds the truth, and how many spans wide it is on the mean: an instrument that is off by what its
 * maker allows, evenly, shows a number, and a keeper names the two lines it lies between.
 */
function between(
	of: Method,
	line: number,
	shows: (truth: number, kit: () => number, chance: () => number) => number,
	said: (low: number, high: number) => RawReading,
	truths: [number, number]
) {
	const random = uniform(17);
	const gauss = normal(random);
	let [inside, wide] = [0, 0];
	for (let n = 0; n < TRIES; n++) {
		const truth = truths[0] + random() * (truths[1] - truths[0]);
		const shown = shows(truth, () => 2 * random() - 1, gauss);
		const low = Math.floor(shown / line) * line;
		const { interval, range95 } = measured(of, said(low, low + line));
		if (range95[0]! <= truth && truth <= range95[1]!) inside++;
		wide += (range95[1]! - range95[0]!) / Math.max(interval[1]! - interval[0]!, 1e-9) / TRIES;
	}
	return { inside: inside / TRIES, wide };
}

it.each<[string, number, () => ReturnType<typeof between>]>([
	[
		'a pH pen',
		25,
		() => {
			const pen = method('ph-pen');
			const { absolute = 0, range } = (pen as { display: { absolute?: number; range?: [number, number] } })
				.display;
			expect(range![0]).toBeLessThan(7.5);
			return between(
				pen,
				0.01,
				(truth, kit) => truth + absolute * kit(),
				(low, high) => ({ shown: [low, high] }),
				[7.6, 8.6]
			);
		}
	],
	[
		'a syringe',
		10,
		() => {
			const syringe = method('alk-syringe-6') as Extract<Method, { reads: 'syringe' }>;
			const { scale, uncertainty } = syringe;
			const perMl = scale.kind === 'linear' ? scale.perMl : NaN;
			const drop = uncertainty?.dropMl ?? 0.012;
			return between(
				syringe,
				0.01,
				// The sample, the titrant, the filling and how much of the last drop was needed.
				(truth, kit, gauss) => {
					const ml =
						(truth / perMl) * (1 + 0.015 * gauss()) * (1 + (uncertainty?.titrantRelative ?? 0.01) * gauss());
					const used = Math.ceil((ml + 0.002 * gauss()) / drop) * drop;
					return 1 - used + 0 * kit();
				},
				(low, high) => ({ left: [Math.max(0, low), high] }),
				[6, 11]
			);
		}
	]
])(
	'the true value lies in what is said, and that is not wide: between two lines of %s',
	(_, widest, tries) => {
		const { inside, wide } = tries();
		expect(inside).toBeGreaterThan(0.9);
		expect(wide, `${wide}`).toBeLessThan(widest);
	}
);

it('past the end of a chart the errors stay, above as below', () => {
	const base = method('alk-syringe-6') as Extract<Method, { reads: 'syringe' }>;
	const table: Method = {
		...base,
		scale: {
			kind: 'table',
			by: 'left',
			points: [
				[0.9, 1.5],
				[0.5, 8],
				[0.1, 16]
			]
		}
	};
	for (const [left, qualifier, at] of [
		[0.95, '<', 1.5],
		[0.05, '>', 16]
	] as const) {
		const { interval, range95, standardUncertainty, budget, ...r } = measured(table, { left });
		expect(r.qualifier).toBe(qualifier);
		expect(budget.length).toBeGreaterThan(3);
		const end = qualifier === '<' ? 1 : 0;
		expect(interval[end]).toBe(at);
		const reach = qualifier === '<' ? range95[end]! - at : at - range95[end]!;
		expect(reach).toBeCloseTo(1.96 * standardUncertainty!, 9);
		expect(reach).toBeGreaterThan(0.05);
		expect(reach).toBeLessThan(2);
	}
});

it('a check with a standard takes its part of the error away, and never adds', () => {
	for (const of of SHIPPED_METHODS) {
		if (of.reads !== 'scale-line' && of.reads !== 'display') continue;
		const [low, high] = of.display.range ?? [0, 10];
		const shown = low + 0.6 * (high - low);
		const plain = measured(of, { shown });
		if (of.parameter !== 'salinity') continue;
		for (const standard of [shown, low + 0.55 * (high - low), low + 0.2 * (high - low)]) {
			const checked = measured(of, { shown, calibration: { standard, shown: standard } });
			expect(checked.standardUncertainty!, of.id).toBeLessThanOrEqual(plain.standardUncertainty! + 1e-9);
		}
	}
});

it.each<[Dilution['vessel'] | undefined, number, number]>([
	['syringe-1', 0.015, 1],
	['syringe-5', 0.05, 5],
	['pipette', 0.05, 5],
	['line', 0.1, Infinity],
	[undefined, 0.05, 5]
])('a dilution drawn with %s holds the truth', (vessel, off, most) => {
	const card = method('no3-card') ?? SHIPPED_METHODS.find((m) => m.parameter === 'nitrate')!;
	const meter: Method = {
		format: 'tevrik.method/1',
		id: 'meter',
		name: 'A meter',
		parameter: 'nitrate',
		unit: card.unit,
		reads: 'display',
		display: { unit: card.unit, resolution: 0.01, absolute: 0.01, range: [0, 100] }
	};
	const random = uniform(29);
	const gauss = normal(random);
	const draw = (ml: number) => {
		let got = 0;
		for (let left = ml; left > 1e-9; left -= most) got += Math.min(left, most) + off * gauss();
		return got;
	};
	let [inside, wide] = [0, 0];
	for (let n = 0; n < TRIES; n++) {
		const truth = 20 + 40 * random();
		const [sampleMl, waterMl] = [1, [4, 9, 15][n % 3]!];
		const [sample, water] = [draw(sampleMl), draw(waterMl)];
		const shown = Math.round((100 * truth * sample) / (sample + water)) / 100;
		const dilution = { sampleMl, waterMl, ...(vessel ? { vessel } : {}) };
		const { range95, value } = measured(meter, { shown, dilution });
		if (range95[0]! <= truth && truth <= range95[1]!) inside++;
		wide += (range95[1]! - range95[0]!) / value! / TRIES;
	}
	expect(inside / TRIES).toBeGreaterThan(0.9);
	expect(inside / TRIES).toBeLessThan(0.985);
	expect(wide).toBeLessThan(6 * off + 0.02);
});

it('does not dilute what water does not thin', () => {
	const outcome = read({
		method: method('ph-pen'),
		reading: { shown: 8.1, dilution: { sampleMl: 1, waterMl: 1 } }
	});
	expect(outcome.ok || outcome.problems[0]!.path).toBe('/reading/dilution');
});
