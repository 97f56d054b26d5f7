import { describe, expect, it } from 'vitest';
import { type SyringeMethod } from '../instruments';
import { read } from '../methods';
import { normal, uniform } from '../simulate';
import { chart, parseLines, type ChartRequest, type ChartResult } from '.';

const fit = (points: [number, number][], more: Partial<ChartRequest> = {}): ChartResult => {
	const result = chart({ parameter: 'alkalinity', unit: 'dKH', reads: 'syringe', points, ...more });
	if (!result.ok) throw new Error(JSON.stringify(result.problems));
	return result.value;
};
const paths = (points: [number, number][], more: Partial<ChartRequest> = {}): string[] => {
	const result = chart({ parameter: 'alkalinity', unit: 'dKH', reads: 'syringe', points, ...more });
	return result.ok ? [] : result.problems.map((p) => p.path);
};
const round = (value: number, step: number) => Number((Math.round(value / step) * step).toPrecision(10));
const grid = (n: number) => Array.from({ length: n }, (_, i) => Number((i / (n - 1)).toFixed(4)));

describe('a kit from its leaflet', () => {
	it('finds the true slope behind rounded lines, left or used', () => {
		const used = fit(grid(11).map((x) => [x, round(16.8 * x, 0.1)]));
		expect(used).toMatchObject({ linear: true, readAs: 'used', suspects: [] });
		expect(Math.abs(used.perMl! / 16.8 - 1)).toBeLessThan(0.002);
		const left = fit(grid(11).map((x) => [x, round(16.8 * (1 - x), 0.1)]));
		expect(left.readAs).toBe('left');
		expect(Math.abs(left.perMl! / 16.8 - 1)).toBeLessThan(0.002);
		const drops = fit(
			[4, 9, 13, 16, 22].map((d) => [d, round(15.03 * d, 5)]),
			{ reads: 'drops', parameter: 'calcium', unit: 'mg/L' }
		);
		expect(drops).toMatchObject({ linear: true, rounding: 5 });
		expect(Math.abs(drops.perDrop! / 15.03 - 1)).toBeLessThan(0.01);
	});

	it('two lines are a straight one, through nothing where their rounding allows it', () => {
		expect(
			fit([
				[1, 0],
				[0.5, 8.4]
			])
		).toMatchObject({ linear: true, readAs: 'left', perMl: 16.8, suspects: [] });
		// 8.4 and 16.7 of a slope of 16.75: rounding alone keeps them off the line through nothing.
		expect(
			fit([
				[0.5, 8.4],
				[1, 16.7]
			]).scale
		).toMatchObject({ kind: 'linear', atZero: 0 });
		expect(
			fit([
				[0.5, 10],
				[1, 18.4]
			]).scale
		).toMatchObject({ kind: 'linear', atZero: expect.closeTo(1.6, 6) });
		// More titrant, less of it: a back titration.
		expect(
			fit(
				[
					[0, 420],
					[1, 20]
				],
				{ readAs: 'used', parameter: 'potassium', unit: 'mg/L' }
			).scale.kind
		).toBe('table');
	});

	it('recovers the slope of a thousand simulated leaflets, and names the one line mistyped in each', () => {
		const random = uniform(3);
		let named = 0;
		let falseNames = 0;
		const off: number[] = [];
		const many = 1000;
		for (let n = 0; n < many; n++) {
			const slope = 5 + 1500 * random() ** 3;
			const step = slope > 200 ? 5 : slope > 40 ? 1 : 0.1;
			const lines = 6 + Math.floor(random() * 30);
			const left = random() < 0.5;
			const points = grid(lines).map((x): [number, number] => [x, round(slope * (left ? 1 - x : x), step)]);
			const clean = fit(points);
			expect(clean.linear).toBe(true);
			off.push(Math.abs(clean.perMl! / slope - 1) / (step / slope));
			falseNames += clean.suspects.length;
			const at = Math.floor(random() * lines);
			const wrong = points.map((p, i): [number, number] =>
				i === at
					? [p[0], round(p[1] + (random() < 0.5 ? 1 : -1) * step * (3 + Math.floor(random() * 40)), step)]
					: p
			);
			const found = fit(wrong);
			if (
				found.suspects.length === 1 &&
				found.suspects[0]!.index === at &&
				Math.abs(found.suspects[0]!.expected - points[at]![1]) <= step * 1.01
			)
				named++;
		}
		console.log(
			`measured: leaflets: mistyped line named in ${(100 * named) / many} %, ${falseNames} named in clean ones`
		);
		// One step over the whole syringe is the most that rounding can tilt a line; most are far better.
		expect(Math.max(...off)).toBeLessThan(1);
		expect(off.sort((a, b) => a - b)[many / 2]).toBeLessThan(0.1);
		expect(falseNames).toBe(0);
		expect(named / many).toBeGreaterThan(0.97);
	});

	it('keeps a curve as a table that reads its own lines back, and names a mistake in it', () => {
		const curve = grid(13).map((x): [number, number] => [x, round(4 + 12 * x + 9 * x * x, 0.1)]);
		const table = fit(curve);
		expect(table).toMatchObject({ linear: false, suspects: [] });
		const method: SyringeMethod = {
			format: 'tevrik.method/1',
			id: 'x',
			name: 'x',
			parameter: 'alkalinity',
			unit: 'dKH',
			reads: 'syringe',
			syringe: { fillMl: 1, graduationMl: 0.01, readAs: 'used' },
			// As the leaflet has it: its lines allow for the drop that was too much.
			endPoint: 'after-drop',
			scale: table.scale as SyringeMethod['scale']
		};
		for (const [used, value] of curve) {
			const result = read({ method, reading: { used } });
			expect(result.ok && result.value.value).toBeCloseTo(value, 9);
		}
		const wrong = curve.map((p, i): [number, number] => (i === 6 ? [p[0], p[1] + 5] : p));
		expect(fit(wrong).suspects).toEqual([{ index: 6, expected: curve[6]![1] }]);
	});

	const LINES = grid(11).map((x): [number, number] => [x, round(16.8 * x, 0.1)]);
	const change = (...changes: [number, number][]) =>
		LINES.map((p, i): [number, number] => [p[0], changes.find(([at]) => at === i)?.[1] ?? p[1]]);
	const value = (i: number) => LINES[i]![1];

	it('names two lines that were swapped, and one that has its neighbour’s value', () => {
		const swapped = fit(change([4, value(5)], [5, value(4)]));
		expect(swapped.suspects).toEqual([
			{ index: 4, expected: expect.closeTo(value(4), 1) },
			{ index: 5, expected: expect.closeTo(value(5), 1) }
		]);
		expect(fit(change([7, value(6)])).suspects.map((s) => s.index)).toEqual([7]);
	});

	it('sees two lines at the end that are a drop too high, and keeps a bend a bend', () => {
		const high = fit(change([9, value(9) + 0.5], [10, value(10) + 0.5]));
		expect(high.linear).toBe(true);
		expect(high.suspects.map((s) => s.index)).toEqual([9, 10]);
		const bent = grid(11).map((x): [number, number] => [
			x,
			round(16.8 * x + 6 * Math.max(0, x - 0.7) ** 2 * 10, 0.1)
		]);
		expect(fit(bent)).toMatchObject({ linear: false, suspects: [] });
	});

	it('takes values that fall by what was used, where the leaflet says so', () => {
		const back = LINES.map(([x, y]): [number, number] => [x, round(16.8 - y, 0.1)]);
		expect(fit(back).readAs).toBe('left');
		const used = fit(back, { readAs: 'used' });
		expect(used).toMatchObject({ readAs: 'used', linear: true, suspects: [] });
		expect(used.scale).toMatchObject({ kind: 'table', by: 'used' });
		const wrong = back.map((p, i): [number, number] => (i === 5 ? [p[0], p[1] + 3] : p));
		expect(fit(wrong, { readAs: 'used' }).suspects.map((s) => s.index)).toEqual([5]);
	});

	it('names the one typo of four lines', () => {
		const four = (wrong: number): [number, number][] =>
			[0.2, 0.4, 0.6, 0.8].map((x, i) => [x, round(16.8 * x, 0.1) + (i === wrong ? 2.7 : 0)]);
		for (const wrong of [0, 1, 2, 3]) expect(fit(four(wrong)).suspects.map((s) => s.index)).toEqual([wrong]);
		expect(fit(four(9))).toMatchObject({ linear: true, suspects: [] });
	});

	it('keeps a table of drops that falls, bends or does both, whole', () => {
		const of = (points: [number, number][], sure: number[] = []) => {
			const made = chart({ parameter: 'calcium', unit: 'mg/L', reads: 'drops', points, sure });
			if (!made.ok) throw new Error(JSON.stringify(made.problems));
			return made.value;
		};
		// Each drop more means less, by less each time, in steps that are coarse beside the bend.
		const falling: [number, number][] = [7, 9, 11, 13, 15].map((n, i) => [n, 500 - 38 * i + 2.5 * i * i]);
		const rounded = falling.map(([n, v]): [number, number] => [n, 5 * Math.round(v / 5)]);
		const rising: [number, number][] = [
			[3, 120],
			[5, 190],
			[7, 240],
			[9, 270],
			[11, 285]
		];
		for (const points of [falling, rounded, rising])
			expect(of(points)).toMatchObject({ linear: false, suspects: [], scale: { kind: 'table', points } });
		const even: [number, number][] = [
			[6, 480],
			[9, 420],
			[12, 360],
			[15, 300]
		];
		expect(of(even)).toMatchObject({ linear: true, suspects: [], scale: { kind: 'table', points: even } });
		// One line that is off by itself is doubted; its keeper has the last word.
		const doubted: [number, number][] = [
			[2, 30],
			[4, 60],
			[6, 90],
			[8, 135],
			[10, 150],
			[12, 180]
		];
		expect(of(doubted).suspects.map((s) => s.index)).toEqual([3]);
		expect(of(doubted, [3])).toMatchObject({ linear: false, suspects: [], scale: { points: doubted } });
	});

	it('is not fooled by scatter into a straight line', () => {
		const gauss = normal(uniform(5));
		expect(fit(grid(12).map((x) => [x, round(10 * x + 1.5 * gauss(), 0.1)])).linear).toBe(false);
	});

	it.each<[[number, number][], Partial<ChartRequest>, string]>([
		[
			[
				[0, 0],
				[0.5, 8],
				[0.5, 9]
			],
			{},
			'/points/2/0'
		],
		[
			[
				[0, 5],
				[0.5, 5],
				[1, 5]
			],
			{},
			'/points'
		],
		[
			[
				[-0.1, 0],
				[0.5, 8],
				[1, 16]
			],
			{},
			'/points/0/0'
		],
		[
			[
				[0, 16],
				[0.5, 8],
				[1.5, 0]
			],
			{},
			'/points/2/0'
		],
		[
			[
				[0, 0],
				[0.5, 8],
				[1, 16]
			],
			{ unit: 'mg/L' },
			'/unit'
		]
	])('says what is wrong with %j %j', (points, more, path) => {
		expect(paths(points, more)).toContain(path);
	});
});

describe('lines of a leaflet as typed', () => {
	it('reads them whatever stands between the numbers', () => {
		const { points, problems } = parseLines('left   dKH\n0,48\t8,1\n\n0.50; 7.8\n.52 = 7.4 dKH\n0.54\n1 2 3');
		expect(points).toEqual([
			[0.48, 8.1],
			[0.5, 7.8],
			[0.52, 7.4]
		]);
		expect(problems.map((p) => p.path)).toEqual(['/lines/6', '/lines/7']);
		expect(parseLines('0.48-8.1\n0,50 - 7,8\n0.52 – 7.4\n-0.1 3').points).toEqual([
			[0.48, 8.1],
			[0.5, 7.8],
			[0.52, 7.4],
			[-0.1, 3]
		]);
	});
});
