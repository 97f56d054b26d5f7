import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { parseSyringeEntry, type Method, type SyringeMethod } from '../instruments';
import { type ReadingRequest } from '.';
import { SYRINGE, TABLE, run, paths } from '../../../tests/support/readings';

describe('reading a syringe', () => {
	it('gives the value and the budget worked by hand', () => {
		const r = run(SYRINGE, { left: 0.48 });
		const used = 0.52;
		expect(r.value).toBeCloseTo(used * 16.8, 12);
		// Two lines of 0.01 mL, triangular: 0.005/√6 each; last drop 0.012/√12; in dKH by 16.8. If the chart does not allow for the drop,
		// the end lies half a drop before: nobody knows, so the root of the mean square of nothing and that, and the mean of both.
		const allowed = (0.012 / 2) * Math.SQRT1_2 * 16.8;
		const aside = (-0.012 / 4) * 16.8;
		const line = (0.005 / Math.sqrt(6)) * 16.8;
		const drop = (0.012 / Math.sqrt(12)) * 16.8;
		// Half of the sample's error, by variance, is the vessel's and stays; the other half is how it was drawn.
		const sample = (used * 16.8 * 0.015) / Math.SQRT2;
		expect(r.repeatability).toBeCloseTo(Math.sqrt(2 * line ** 2 + drop ** 2 + sample ** 2), 12);
		expect(r.trueness).toBeCloseTo(Math.hypot(sample, used * 16.8 * 0.01, allowed), 12);
		expect(r.standardUncertainty).toBeCloseTo(Math.hypot(r.repeatability!, r.trueness!), 12);
		const about = Math.sqrt(r.standardUncertainty! ** 2 - aside ** 2);
		expect(r.interval[0]).toBeCloseTo(used * 16.8 + aside - 1.96 * about, 12);
		expect(r.interval[1]).toBeCloseTo(used * 16.8 + aside + 1.96 * about, 12);
		expect(r.budget.map((b) => b.source)).toContain('sample volume');
	});

	it('adds full syringes, and their filling to the error', () => {
		const once = run(SYRINGE, { used: 0.2 });
		const thrice = run(SYRINGE, { used: 0.2, refills: 2 });
		expect(thrice.value! - once.value!).toBeCloseTo(2 * 16.8, 9);
		expect(thrice.repeatability).toBeGreaterThan(once.repeatability!);
	});

	it('keeps two lines as an interval', () => {
		const r = run(SYRINGE, { left: [0.46, 0.48] });
		expect(r.qualifier).toBe('between');
		expect(r.interval[0]).toBeCloseTo(0.52 * 16.8, 9);
		expect(r.interval[1]).toBeCloseTo(0.54 * 16.8, 9);
		expect(r.value).toBeCloseTo(0.53 * 16.8, 9);
	});

	it('follows a chart between its lines and gives a bound past its ends', () => {
		expect(run(TABLE, { left: 0.7 }).value).toBeCloseTo(4.75, 9);
		// By a chart for the middle of the last drop, half a drop less: 0.006 mL on a chart of 16.25 a mL, then of 20.
		const middle: Method = { ...TABLE, endPoint: 'mid-drop' };
		expect(run(middle, { left: 0.7 }).value).toBeCloseTo(4.75 - 0.006 * 16.25, 9);
		expect(run(middle, { used: 0.9 }).value).toBeCloseTo(16 - 0.006 * 20, 9);
		expect(run(TABLE, { left: 0.95 })).toMatchObject({ value: null, qualifier: '<', interval: [0, 1.5] });
		expect(run(TABLE, { left: 0.05 })).toMatchObject({ value: null, qualifier: '>', interval: [16, null] });
		expect(run(TABLE, { left: [0.88, 0.95] })).toMatchObject({ qualifier: '<' });
	});

	it('keeps its errors past the end of a chart, above as below', () => {
		for (const [left, at, end] of [
			[0.95, 1.5, 1],
			[0.05, 16, 0]
		] as const) {
			const { interval, range95, standardUncertainty, budget } = run(TABLE, { left });
			expect(budget.length).toBeGreaterThan(3);
			expect(interval[end]).toBe(at);
			const reach = Math.abs(range95[end]! - at);
			expect(reach).toBeCloseTo(1.96 * standardUncertainty!, 9);
			expect(reach).toBeGreaterThan(0.05);
			expect(reach).toBeLessThan(2);
		}
	});

	it('multiplies by a dilution and counts its error', () => {
		const plain = run(SYRINGE, { used: 0.2 });
		const thinned = run(SYRINGE, { used: 0.2, dilution: { sampleMl: 1, waterMl: 3 } });
		expect(thinned.value).toBeCloseTo(4 * plain.value!, 9);
		expect(thinned.standardUncertainty! / thinned.value!).toBeGreaterThan(
			plain.standardUncertainty! / plain.value!
		);
	});

	it.each<[Partial<ReadingRequest>, string]>([
		[{ reading: { left: 1.2 } }, '/reading/left'],
		[{ reading: { used: -0.1 } }, '/reading/used'],
		[{ reading: { used: NaN } }, '/reading/used'],
		[{ reading: { left: [0.2, 1.3] } }, '/reading/left/1'],
		[{ reading: { left: [0.5, 0.4] } }, '/reading/left'],
		[{ reading: { drops: 5 } }, '/reading'],
		[{ sample: 'double' }, '/sample'],
		[{ method: { ...SYRINGE, unit: 'mg/L' } }, '/method/unit'],
		[{ method: { ...SYRINGE, takeAway: { parameter: 'calcium', times: 1 } } }, '/other/calcium'],
		[
			{
				method: {
					...SYRINGE,
					scale: {
						kind: 'table',
						by: 'used',
						points: [
							[0, 0],
							[0.5, 9],
							[1, 8]
						]
					}
				}
			},
			'/method/scale/points/2'
		]
	])('names the place of a mistake: %j', (part, path) => {
		expect(paths({ method: SYRINGE, reading: { left: 0.5 }, ...part })).toContain(path);
	});
});

describe('what holds for every syringe reading', () => {
	const syringe = fc
		.record({
			fillMl: fc.double({ min: 0.5, max: 5, noNaN: true }),
			perMl: fc.double({ min: 0.1, max: 2000, noNaN: true }),
			sampleRelative: fc.double({ min: 0, max: 0.1, noNaN: true })
		})
		.map(({ fillMl, perMl, sampleRelative }): SyringeMethod => ({
			...SYRINGE,
			syringe: { ...SYRINGE.syringe, fillMl },
			scale: { kind: 'linear', perMl },
			uncertainty: { sampleRelative }
		}));
	const share = fc.double({ min: 0, max: 1, noNaN: true });

	it('left and used make one fill, and mean the same', () => {
		fc.assert(
			fc.property(syringe, share, (method, s) => {
				const fill = method.syringe.fillMl;
				const byLeft = run(method, { left: s * fill });
				const byUsed = run(method, { used: fill - s * fill });
				expect(byLeft.value).toBeCloseTo(byUsed.value!, 9);
			})
		);
	});

	it('a half sample is twice the full, and less sure', () => {
		fc.assert(
			fc.property(syringe, share, (method, s) => {
				const reading = { used: s * method.syringe.fillMl };
				const half = run(method, reading, { sample: 'half' });
				const full = run(method, reading, { sample: 'full' });
				expect(half.value).toBeCloseTo(2 * full.value!, 6);
				expect(half.standardUncertainty).toBeGreaterThan(1.99 * full.standardUncertainty!);
			})
		);
	});

	it('more used means more, the interval holds the value, and nothing is certain', () => {
		fc.assert(
			fc.property(syringe, share, share, (method, a, b) => {
				fc.pre(Math.abs(a - b) > 1e-6);
				const fill = method.syringe.fillMl;
				const low = run(method, { used: Math.min(a, b) * fill });
				const high = run(method, { used: Math.max(a, b) * fill });
				expect(high.value).toBeGreaterThan(low.value!);
				for (const r of [low, high]) {
					expect(r.standardUncertainty).toBeGreaterThan(0);
					expect(r.interval[0]).toBeLessThanOrEqual(r.value!);
					expect(r.interval[1]).toBeGreaterThanOrEqual(r.value!);
				}
			})
		);
	});
});

describe('parseSyringeEntry', () => {
	it.each([
		['0,48', { left: 0.48 }],
		['used .52', { used: 0.52 }],
		['.52 used', { used: 0.52 }],
		['0.46-0.48', { left: [0.46, 0.48] }],
		['0.46 - 0.48 mL left', { left: [0.46, 0.48] }]
	])('%s', (text, reading) => {
		expect(parseSyringeEntry(text, 'left')).toEqual({ ok: true, value: { reads: 'syringe', ...reading } });
	});
	it.each(['', 'x', '<0.2', '0.5 spoons', 'left 0.5 used'])('refuses “%s”', (text) => {
		expect(parseSyringeEntry(text, 'left').ok).toBe(false);
	});
});
