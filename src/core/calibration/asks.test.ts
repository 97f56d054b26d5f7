import { describe, expect, it } from 'vitest';
import { tries } from '../../../tests/support/length';
import { SHIPPED_METHODS } from '../methods';
import { uniform } from '../statistics';
import { chart, type ChartRequest } from '.';

type Points = [number, number][];
/** What leaflets lead to, and to which digit they print it: [parameter, unit, ends, roundings]. */
const KITS: [parameter: string, unit: string, ends: [number, number], roundings: number[]][] = [
	['alkalinity', 'dKH', [11, 26], [0.1, 0.1, 0.2, 0.5]],
	['alkalinity', 'ppm CaCO3', [200, 460], [1, 5]],
	['alkalinity', 'meq/L', [4, 9], [0.05, 0.1]],
	['calcium', 'mg/L', [480, 1000], [1, 2, 5, 10]],
	['magnesium', 'mg/L', [1500, 3000], [5, 10, 15]],
	['potassium', 'mg/L', [420, 800], [1, 5]],
	['nitrate', 'mg/L NO3', [20, 120], [0.2, 1]],
	['phosphate', 'mg/L PO4', [0.5, 3], [0.01, 0.02]]
];
const round = (value: number, step: number) => Number((Math.round(value / step) * step).toPrecision(10));

interface Leaflet {
	request: ChartRequest;
	/** In the order in which they are typed, by what was used. */
	used: number[];
	values: number[];
	step: number;
	fill: number;
	drops: boolean;
	left: boolean;
}

/** A leaflet as its maker prints it: straight, bent, or with an end point that comes late; all its lines or some. */
function leafletOf(random: () => number): Leaflet {
	const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
	const [parameter, unit, [low, high], roundings] = pick(KITS);
	const step = pick(roundings);
	const end = low + random() * (high - low);
	const drops = random() < 0.3;
	const left = !drops && random() < 0.5;
	const fill = pick([0.5, 1, 1, 1, 2, 5]);
	const count = 6 + Math.floor(random() * 20);
	const bend = random() < 0.3 ? (random() - 0.3) * 0.5 : 0;
	const late = random() < 0.3 ? 0.02 * random() : 0;
	const many = 8 + Math.floor(random() * 22);
	const places = drops
		? Array.from({ length: Math.min(count, many) }, (_, i) => i + 1 + Math.floor(random() * 0))
		: Array.from({ length: count + 1 }, (_, i) => round((fill * i) / count, 0.01));
	const length = drops ? many : fill;
	const value = (x: number) => {
		const share = Math.max(0, x / length - late);
		return round(end * share * (1 + bend * (share - 1)), step);
	};
	// Some leave lines out, and begin where the vial does.
	const kept = [...new Set(places)].filter((x, i) => i === 0 || random() > (random() < 0.5 ? 0 : 0.15));
	const used = drops || random() < 0.7 ? kept : kept.slice(1);
	const values = used.map(value);
	return { request: requestOf(parameter, unit, drops, left, fill), used, values, step, fill, drops, left };
}
const requestOf = (
	parameter: string,
	unit: string,
	drops: boolean,
	left: boolean,
	fill: number
): ChartRequest => ({
	parameter,
	unit,
	reads: drops ? 'drops' : 'syringe',
	points: [],
	...(drops ? {} : { syringe: { fillMl: fill }, readAs: left ? 'left' : 'used' })
});
const readings = ({ used, left, fill }: Leaflet): number[] =>
	used.map((x) => (left ? round(fill - x, 0.001) : x));
const pairs = (xs: number[], ys: number[]): Points =>
	xs.slice(0, ys.length).map((x, i): [number, number] => [x, ys[i]!]);

/** Twelve ways in which a chart comes to stand wrong as a whole; nothing where it cannot happen to this one. */
const WRONG: Record<string, (l: Leaflet, random: () => number) => Points | undefined> = {
	'a mark of thousands in some lines': (l) =>
		Math.max(...l.values) > 1100 && Math.min(...l.values.filter((v) => v > 0)) < 900
			? pairs(
					readings(l),
					l.values.map((v) => (v >= 1000 ? v / 1000 : v))
				)
			: undefined,
	'values a row lower': (l) => pairs(readings(l).slice(1), l.values.slice(0, -1)),
	'values a row higher': (l) => pairs(readings(l), l.values.slice(1)),
	'a row lower from the middle on': (l, random) => {
		const at = 2 + Math.floor(random() * (l.values.length - 5));
		return pairs(readings(l), [...l.values.slice(0, at), l.values[at - 1]!, ...l.values.slice(at, -1)]);
	},
	'points lost in values': (l) =>
		l.step < 1
			? pairs(
					readings(l),
					l.values.map((v) => v * (l.step < 0.1 ? 100 : 10))
				)
			: undefined,
	'points lost in readings': (l) =>
		l.drops
			? undefined
			: pairs(
					readings(l).map((x) => Math.round(100 * x)),
					l.values
				),
	'columns swapped': (l) => pairs(l.values, readings(l)),
	'ppm as dKH': (l) =>
		l.request.unit === 'dKH'
			? pairs(
					readings(l),
					l.values.map((v) => round(v * 17.85, 1))
				)
			: undefined,
	'meq as dKH': (l) =>
		l.request.unit === 'dKH'
			? pairs(
					readings(l),
					l.values.map((v) => round(v / 2.8039, 0.05))
				)
			: undefined,
	'turns back': (l, random) => {
		const from = Math.floor(l.values.length * (0.4 + 0.3 * random()));
		return pairs(
			readings(l),
			l.values.map((v, i) => (i > from ? 2 * l.values[from]! - v : v))
		);
	},
	'all off by the same': (l, random) => {
		const by = (0.12 + 0.2 * random()) * Math.max(...l.values);
		return l.used[0] === 0
			? undefined
			: pairs(
					readings(l),
					l.values.map((v) => round(v + by, l.step))
				);
	},
	'read off another glass': (l) =>
		l.left
			? pairs(
					readings(l).map((x) => round(x / 2, 0.001)),
					l.values
				)
			: undefined
};

const isSeen = (request: ChartRequest, points: Points): boolean => {
	const result = chart({ ...request, points });
	return !result.ok || result.value.asks.length > 0 || result.value.suspects.length > 0;
};

describe('a chart as a whole', () => {
	it('that is right is asked about once in a hundred; that is wrong is seen 95 times in a hundred, of twelve kinds', () => {
		const random = uniform(28);
		const many = tries(1500, 20_000);
		let asked = 0;
		const seen = new Map<string, [number, number]>();
		for (let n = 0; n < many; n++) {
			const leaflet = leafletOf(random);
			const right = chart({ ...leaflet.request, points: pairs(readings(leaflet), leaflet.values) });
			if (!right.ok) continue;
			if (right.value.asks.length) asked++;
			for (const [kind, make] of Object.entries(WRONG)) {
				const points = make(leaflet, random);
				if (!points || points.length < 4) continue;
				const [of, all] = seen.get(kind) ?? [0, 0];
				seen.set(kind, [of + Number(isSeen(leaflet.request, points)), all + 1]);
			}
		}
		const shares = [...seen].map(([kind, [of, all]]) => [kind, of / all, all] as const);
		console.log(
			`measured: charts: right ones asked about ${((100 * asked) / many).toFixed(1)} %; wrong ones seen: ${shares
				.map(([kind, share, all]) => `${kind} ${(100 * share).toFixed(0)} % of ${all}`)
				.join(', ')}`
		);
		expect(Object.keys(WRONG)).toHaveLength(12);
		expect(asked / many).toBeLessThanOrEqual(0.01);
		expect(shares.reduce((sum, [, share]) => sum + share, 0) / shares.length).toBeGreaterThanOrEqual(0.95);
	});

	it('of the shipped templates is asked about by none of its lines', () => {
		let many = 0;
		for (const method of SHIPPED_METHODS) {
			if ((method.reads !== 'syringe' && method.reads !== 'drops') || method.scale.kind !== 'linear')
				continue;
			const { atZero = 0 } = method.scale;
			const per = method.reads === 'syringe' ? (method.scale.perMl ?? 0) : (method.scale.perDrop ?? 0);
			const end = method.reads === 'syringe' ? method.syringe.fillMl : 25;
			const points = Array.from({ length: 11 }, (_, i): [number, number] => [
				method.reads === 'drops' ? i * 2 : (end * i) / 10,
				round(atZero + per * (method.reads === 'drops' ? i * 2 : (end * i) / 10), 0.01)
			]);
			const { parameter, unit, reads } = method;
			const made = chart({
				parameter,
				unit,
				reads,
				points,
				...(method.reads === 'syringe'
					? { syringe: { fillMl: method.syringe.fillMl }, readAs: 'used' as const }
					: {})
			});
			expect(made.ok && made.value.asks, method.id).toEqual([]);
			many++;
		}
		expect(many).toBeGreaterThan(5);
	});
	it('says what would make it right', () => {
		const kinds = (points: Points, more: Partial<ChartRequest> = {}) => {
			const made = chart({ ...requestOf('alkalinity', 'dKH', false, false, 1), points, ...more });
			return made.ok ? made.value.asks.map((a) => [a.kind, a.unit ?? a.index ?? a.value]) : made.problems;
		};
		const lines = (by: number, step: number): Points =>
			Array.from({ length: 11 }, (_, i): [number, number] => [i / 10, round(by * (i / 10), step)]);
		expect(kinds(lines(16.8, 0.1))).toEqual([]);
		expect(kinds(lines(16.8, 0.1).map(([x, y], i) => [x, i === 3 ? y + 4.3 : y]))).toEqual([]);
		expect(kinds(lines(300, 1))).toContainEqual(['unit', 'ppm CaCO3']);
		expect(kinds(lines(6, 0.1))).toContainEqual(['unit', 'meq/L']);
		expect(kinds(lines(1.4, 0.005), { parameter: 'magnesium', unit: 'mg/L' })).toContainEqual([
			'thousands',
			1.4
		]);
		const lower = lines(16.8, 0.1).map(([x], i, all): [number, number] => [x, all[Math.max(0, i - 1)]![1]]);
		expect(kinds(lower.slice(1))).toEqual([['row-shift', expect.closeTo(-1.68, 1)]]);
		expect(kinds(lines(16.8, 0.1).map(([x, y]) => [x, y > 10 ? 20 - y : y]))).toContainEqual([
			'turns-back',
			7
		]);
	});
});
