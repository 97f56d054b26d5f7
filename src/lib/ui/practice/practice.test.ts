import { describe, expect, it } from 'vitest';
import { hand } from '$core/practice';
import { normal, uniform } from '$core/statistics';
import { CARDS, KITS, chartOf, placeOfValue, recipeOf, valueAtPlace } from './kits';
import { triesIn, verdictsOf, type Result } from './lesson-session';
import { LESSONS } from './lessons';
import { precipitated } from './precipitate';
import { begin, heard, leafletColours, refilled, tick, touched, type VialBench } from './vial-bench';

const FRAME = 1 / 60;
const start = { value: 420, seed: 5, light: 'daylight' as const, start: 0.9 };
/** Presses and swirls by a rule until it says stop. */
function by(bench: VialBench, force: (b: VialBench) => number | undefined, swirl = 1): VialBench {
	for (let frame = 0; frame < 6000; frame++) {
		const now = force(bench);
		if (now === undefined) return bench;
		bench = tick(bench, { force: now, swirl, slant: bench.slant }, FRAME);
	}
	return bench;
}
const read = (kit: 'calcium' | 'alkalinity', bench: VialBench, said = bench.syringe.edge): Result[] => [
	{ do: 'titrate', kit, value: 420, half: false, bench },
	{ do: 'read', kit, edge: bench.syringe.edge, said: [said, said], refills: 0 }
];

describe('a titration on the screen', () => {
	it('ends within a drop for a hand that drips, swirls and waits; a stream goes past it', () => {
		const careful = by(begin(KITS.calcium, start), (b) =>
			b.look.mixed < 0.99 ? 0 : b.look.turned > 0.5 ? undefined : 0.25
		);
		const [good] = verdictsOf(read('calcium', careful));
		expect(Math.abs(good!.said - good!.truth)).toBeLessThan(3 * good!.step);
		const hasty = by(begin(KITS.calcium, start), (b) => (b.look.turned > 0.5 ? undefined : 0.7), 0.15);
		const [bad] = verdictsOf(read('calcium', hasty));
		expect(bad!.causes[0]!.by).toBe('overshoot');
		expect(bad!.said - bad!.truth).toBeGreaterThan(5 * bad!.step);
		expect(bad!.streamed).toBeGreaterThan(0.2);
	});

	it('says of every number where its error came from, to the last of it', () => {
		const bench = by(begin(KITS.calcium, { ...start, startEdge: 0.98 }), (b) =>
			b.fellMl > b.endMl + 0.03 ? undefined : 0.25
		);
		for (const said of [bench.syringe.edge, 1 - bench.syringe.edge, bench.syringe.edge - 0.04]) {
			const [v] = verdictsOf(read('calcium', bench, said));
			expect(v!.causes.reduce((sum, c) => sum + c.value, 0)).toBeCloseTo(v!.said - v!.truth, 3);
		}
		expect(verdictsOf(read('calcium', bench, 1 - bench.syringe.edge))[0]!.slip).toBe('left-for-used');
	});

	it('takes calcium’s error along when it is taken away, and potassium’s when it was not filtered out', () => {
		const calcium = by(begin(KITS.calcium, { ...start, value: 412 }), (b) =>
			b.fellMl > b.endMl ? undefined : 0.25
		);
		const total = by(begin(KITS.total, { ...start, value: 1300, start: 0.95 }), (b) =>
			b.fellMl > b.endMl ? undefined : 0.25
		);
		const both = (left: number): Result[] => [
			{ do: 'titrate', kit: 'calcium', value: 412, half: false, bench: calcium },
			{ do: 'read', kit: 'calcium', edge: left, said: [left, left], refills: 0 },
			{ do: 'titrate', kit: 'total', value: 1300, half: false, bench: total },
			{
				do: 'read',
				kit: 'total',
				edge: total.syringe.edge,
				said: [total.syringe.edge, total.syringe.edge],
				refills: total.refills
			}
		];
		const [, right] = verdictsOf(both(calcium.syringe.edge));
		const [, wrong] = verdictsOf(both(calcium.syringe.edge - 0.1));
		expect(right!.truth).toBeCloseTo(1300, 4);
		expect(Math.abs(right!.said - right!.truth)).toBeLessThan(2 * right!.step);
		const perLine = chartOf(KITS.calcium, 412).perMl * 0.1;
		expect(right!.said - wrong!.said).toBeCloseTo((24.305 / 40.078) * perLine, 3);
		expect(precipitated(30, 600)).toBeGreaterThan(0.985);
		expect(precipitated(5, 600)).toBeLessThan(0.7);
	});

	it('measures a hand that is known: so many drops past the end, give or take', () => {
		const random = uniform(8);
		const gauss = normal(random);
		const [BIAS, SCATTER] = [3, 1.5];
		const overs: number[] = [];
		const results = Array.from({ length: 30 }, (_, i): Result[] => {
			const over = BIAS + SCATTER * gauss();
			overs.push(over);
			const value = 380 + 80 * random();
			const bench = by(begin(KITS.calcium, { ...start, value, seed: i }), (b) =>
				b.fellMl + b.syringe.hanging >= b.endMl + over * KITS.calcium.dropMl ? undefined : 0.25
			);
			return read('calcium', bench);
		});
		const found = hand({ endPoints: results.flatMap((r) => triesIn(r, 'daylight').endPoints) });
		if (!found.ok) throw new Error('has no problems');
		const [its] = found.value.endPoints;
		expect(its!.bias).toBeCloseTo(overs.reduce((a, b) => a + b, 0) / 30, 0);
		expect(Math.abs(its!.bias - BIAS)).toBeLessThan(1.96 * its!.standardUncertainty);
		expect(its!.interval[0]).toBeLessThan(SCATTER);
		expect(its!.interval[1]).toBeGreaterThan(SCATTER);
	});

	it('can be heard: the colour in words before, at and after the end; a leaflet shows three that differ', () => {
		const fresh = begin(KITS.calcium, { ...start, start: 0 });
		expect(heard(fresh)).toBe('rose');
		const dripped = by(fresh, (b) => (b.fallen ? undefined : 0.25), 0);
		expect(heard(dripped)).toBe('rose; clear blue where the drops fall');
		const over = by(fresh, (b) =>
			b.fellMl > 1.05 * b.endMl && b.look.mixed > 0.99 ? undefined : b.fellMl > 1.05 * b.endMl ? 0 : 0.4
		);
		expect(heard(over)).toBe('clear blue');
		expect(new Set(leafletColours(fresh).map((c) => c.colour.join())).size).toBe(3);
	});

	it('loses nothing when the tip is touched off or the syringe filled again', () => {
		const bench = by(begin(KITS.total, { ...start, value: 1300, start: 0 }), (b) =>
			b.syringe.edge > 0 ? 0.6 : undefined
		);
		const clean = touched(bench);
		expect(clean.syringe.hanging).toBe(0);
		expect(clean.fellMl).toBeCloseTo(1, 6);
		expect(refilled(clean)).toMatchObject({ refills: 1, fellMl: clean.fellMl, syringe: { edge: 1 } });
	});

	it('keeps misreadings and lines between out of what a plunger is read to', () => {
		const at = (said: [number, number]): Result => ({
			do: 'read',
			kit: 'calcium',
			edge: 0.3,
			said,
			refills: 0
		});
		expect(triesIn([at([0.31, 0.31])], 'daylight').plungers[0]!.off).toBeCloseTo(1, 9);
		expect(triesIn([at([0.7, 0.7])], 'daylight').plungers).toEqual([]);
		expect(triesIn([at([0.3, 0.31])], 'daylight').plungers).toEqual([]);
		expect(verdictsOf([at([0.295, 0.305])])[0]!.between).toBe(true);
	});

	it('finds the value at a place of a card and the place of a value, past its ends too', () => {
		for (const { card } of Object.values(CARDS))
			for (const place of [-0.4, 0, 0.5, 1.25, 3, card.values.length - 1.5, card.values.length])
				expect(placeOfValue(card, valueAtPlace(card, place))).toBeCloseTo(place, 9);
	});

	it('says of a comparator whether the hour or the eye was off', () => {
		const match = (seconds: number, said: [number, number]): Result => ({
			do: 'match',
			card: 'nitrate',
			value: 10,
			said,
			seconds
		});
		const [early] = verdictsOf([match(60, [2, 5])]);
		expect(early!.causes[0]!.by).toBe('early');
		const [late] = verdictsOf([match(900, [20, 20])]);
		expect(late!.causes.map((c) => c.by)).toContain('late');
		const [eye] = verdictsOf([match(310, [20, 20])]);
		expect(eye!.causes).toEqual([{ by: 'shade', value: 10 }]);
		for (const v of [early, late, eye])
			expect(v!.causes.reduce((sum, c) => sum + c.value, 0)).toBeCloseTo(v!.said - v!.truth, 9);
		expect(verdictsOf([match(310, [5, 10])])[0]!.between).toBe(true);
	});

	it('has water for every lesson whose end lies within two fills, or fifty drops', () => {
		for (const { stages } of LESSONS)
			for (const stage of stages)
				if (stage.do === 'titrate')
					for (const value of stage.value) {
						const kit = KITS[stage.kit];
						const { endMl } = chartOf(kit, value, stage.half ? 0.5 : 1);
						expect(endMl).toBeGreaterThan(9 * kit.dropMl);
						expect(endMl).toBeLessThan(kit.reads === 'syringe' ? 2 : 50 * kit.dropMl);
						expect(recipeOf(kit, value).sampleMl).toBe(kit.sampleMl);
					}
	});
});
