import { expect, it } from 'vitest';
import { valueIn } from '../quantities';
import { normal, uniform } from '../statistics';
import { type Dilution, type Method, type GivenReading } from '../instruments';
import { SHIPPED_METHODS, read } from '.';

const method = (id: string): Method => SHIPPED_METHODS.find((m) => m.id === id)!;
const measured = (of: Method, reading: GivenReading) => {
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
	said: (low: number, high: number) => GivenReading,
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
		'a refractometer',
		8,
		() => {
			const scale = method('psu-refractometer') as Extract<Method, { reads: 'scale-line' }>;
			const { absolute = 0, graduation = 1 } = scale.display;
			return between(
				scale,
				graduation,
				(truth, kit, gauss) => truth + absolute * kit() + 0.1 * graduation * gauss(),
				(low, high) => ({ shown: [low, high] }),
				[31, 37]
			);
		}
	],
	[
		'a meter',
		30,
		() => {
			const meter = method('alk-meter') as Extract<Method, { reads: 'display' }>;
			const { absolute = 0, relative = 0, resolution = 1, unit } = meter.display;
			const per = valueIn('alkalinity', 1, meter.unit, unit);
			return between(
				meter,
				resolution,
				(truth, kit) => truth * per * (1 + relative * kit()) + absolute * kit(),
				(low, high) => ({ shown: [low, high] }),
				[6.5, 9.5]
			);
		}
	],
	[
		'a card',
		3,
		() => {
			const card = method('no3-card') as Extract<Method, { reads: 'shades' }>;
			const { shades } = card;
			// An eye that is off by up to half of the gap.
			return between(
				card,
				1,
				(truth, kit) => {
					const i = Math.max(
						1,
						shades.findIndex((s) => s > truth)
					);
					const shown = truth + 0.5 * kit() * (shades[i]! - shades[i - 1]!);
					return Math.max(
						0,
						shades.findLastIndex((s) => s <= Math.max(0, shown))
					);
				},
				(i) => ({ between: [shades[i]!, shades[i + 1]!] }),
				[1, 0.7 * shades.at(-1)!]
			);
		}
	],
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
					// Half of the charts allow for the drop that was too much.
					const allowed = kit() < 0 ? 0.5 : 0;
					const used = Math.ceil((ml + 0.002 * gauss()) / drop - allowed) * drop;
					return 1 - used;
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

it.each([0, 0.5])(
	'the true value lies in what is said of drops whose chart allows for %f of the last one',
	(allowed) => {
		const kit = method('alk-drops') as Extract<Method, { reads: 'drops' }>;
		if (kit.scale.kind !== 'linear') throw new Error('is a line');
		const { perDrop } = kit.scale;
		const { dropRelative = 0.02, titrantRelative = 0.01, sampleRelative = 0.02 } = kit.uncertainty ?? {};
		const gauss = normal(uniform(31));
		let [inside, wide] = [0, 0];
		for (let n = 0; n < TRIES; n++) {
			const truth = 6 + (5 * n) / TRIES;
			const off = 1 + Math.hypot(dropRelative, titrantRelative, sampleRelative) * gauss();
			const drops = Math.ceil((truth / perDrop) * off - allowed);
			const { value, range95 } = measured(kit, { drops });
			// What the leaflet says of so many drops.
			expect(value).toBeCloseTo(drops * perDrop, 9);
			if (range95[0]! <= truth && truth <= range95[1]!) inside++;
			wide += (range95[1]! - range95[0]!) / perDrop / TRIES;
		}
		expect(inside / TRIES).toBeGreaterThan(0.9);
		expect(wide).toBeLessThan(3);
	}
);

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
