import { expect, it } from 'vitest';
import { usualRestlessness } from './defaults';
import { smooth } from './smoother';
import { waterAlone } from './water';
import type { Model, Node } from './hypotheses';
import { onward } from './paths';
import { trend } from './trend';
import { inputsFor, type DatedEvent } from './water-events';

const at = '2026-05-01T09:00:00Z';

it('finds what a list of events does to one parameter', () => {
	const events: DatedEvent[] = [
		{ at, kind: 'dose', parameter: 'alkalinity', change: 0.5 },
		{ at, kind: 'dose', parameter: 'calcium', change: 10 },
		{ at, kind: 'dosing', parameter: 'alkalinity', perDay: 0.7 },
		{ at, kind: 'water-change', fraction: 0.2, newWater: { calcium: 430 } },
		{ at, kind: 'feeding', text: 'twice' }
	];
	expect(inputsFor('alkalinity', events)).toEqual([
		{ at, kind: 'dose', change: 0.5 },
		{ at, kind: 'dosing', perDay: 0.7 }
	]);
	expect(inputsFor('calcium', events)).toEqual([
		{ at, kind: 'dose', change: 10 },
		{
			at,
			kind: 'water-change',
			fraction: 0.2,
			newWater: 430,
			standardUncertainty: expect.closeTo(8.6) as number
		}
	]);
	// New water of which alkalinity is not known: left out, unless something usual stands in.
	expect(inputsFor('alkalinity', events, 8.5)).toHaveLength(3);
	expect(inputsFor('magnesium', events)).toEqual([]);
});

it('knows how restless water is in whatever unit it is kept', () => {
	const own = usualRestlessness('alkalinity', 'dKH', 8);
	const ppm = usualRestlessness('alkalinity', 'ppm CaCO3', 143);
	// 1 dKH is 10 mg/L of CaO, 17.848 mg/L of CaCO3.
	expect(ppm.level / own.level).toBeCloseTo(17.848, 2);
	expect(ppm.drift / own.drift).toBeCloseTo(17.848, 2);
	const gravity = usualRestlessness('salinity', 'SG 25/25', 1.0264);
	expect(gravity.level).toBeGreaterThan(0.00005);
	expect(gravity.level).toBeLessThan(0.0002);
	// Of a keeper's own parameter nothing is known but its level.
	expect(usualRestlessness('clarity', 'NTU', 50).level).toBeCloseTo(0.5);
	expect(usualRestlessness('clarity', 'NTU', 0).level).toBeGreaterThan(0);
});

it('looks back through a dose and a water change as far as they reached', () => {
	const seen = (day: number, value: number, reading: number): Node => ({
		at: day,
		kind: 'value',
		seen: value,
		noise: 0.0001,
		offset: 0,
		reading
	});
	const start = { level: 9, levelSd: 1, drift: 0, driftSd: 1e-6, offsetSd: [] };
	const still = { level: 1e-10, drift: 1e-12 };
	const between = (what: Node, after: number) => {
		const nodes: Node[] = [{ at: 0, kind: 'look' }, what, { at: 2, kind: 'look' }, seen(3, after, 0)];
		const model: Model = {
			nodes,
			dosing: [],
			start,
			moves: { level: 1, drift: 0.2 },
			usual: { level: 9, sd: 1, days: 40 },
			floor: -Infinity
		};
		return smooth(waterAlone(model, still), onward(model, still, new Map())).map((s) => s.mean[0]);
	};
	// Only the end was read: before half a dKH was poured in, it was half a dKH less.
	const dosed = between({ at: 1, kind: 'dose', change: 0.5, variance: 0 }, 8.5);
	expect(dosed[0]).toBeCloseTo(8, 2);
	expect(dosed[2]).toBeCloseTo(8.5, 2);
	// A quarter changed for water of 10: 8.5 after it was 8 before it.
	const changed = between({ at: 1, kind: 'change', fraction: 0.25, newWater: 10, variance: 0 }, 8.5);
	expect(changed[0]).toBeCloseTo(8, 2);
	// A dose of which the size is not sure is judged by what came of it.
	const vague = between({ at: 1, kind: 'dose', change: 0.5, variance: 0.25 }, 9.5);
	expect(vague[0]).toBeGreaterThan(8.9);
});

it('follows the kits used most and no more, however many there were', () => {
	const readings = Array.from({ length: 400 }, (_, i) => ({
		at: new Date(Date.parse(at) + i * 86_400_000).toISOString(),
		value: 8,
		standardUncertainty: 0.2,
		method: i % 2 ? `kit ${i}` : `kit ${i % 3}`
	}));
	const outcome = trend({ parameter: 'alkalinity', unit: 'dKH', readings, now: readings.at(-1)!.at });
	expect(outcome.ok && Object.keys(outcome.value.offsets)).toHaveLength(6);
	expect(outcome.ok && Object.keys(outcome.value.offsets)).toEqual(
		expect.arrayContaining(['kit 0', 'kit 1', 'kit 2'])
	);
	expect(outcome.ok && outcome.value.now.value).toBeCloseTo(8, 4);
});
