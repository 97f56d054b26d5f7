import { expect, it } from 'vitest';
import { duplicatesOf, pairsOf, truenessOf, type KitReading } from './evidence';

const HOUR = 3_600_000;
const read = (methodId: string, hours: number, value: number, sourceId = 'tank'): KitReading => ({
	methodId,
	sourceId,
	at: hours * HOUR,
	value,
	repeatability: 0.1,
	standardUncertainty: 0.26
});

it('pairs tests of the same water at the same time, each once, the nearest first', () => {
	const readings = [
		read('b', 0.2, 8.4),
		read('a', 0, 8),
		read('b', 1, 8.5),
		read('a', 0.9, 8.1),
		// Another water, another day, and one too many.
		read('b', 0.1, 4, 'tap'),
		read('a', 50, 9),
		read('b', 60, 9.5),
		read('a', 1.1, 8.2)
	];
	expect(pairsOf(readings, 'a', 'b').map((p) => [p.a.value, p.b.value])).toEqual([
		[8, 8.4],
		[8.1, 8.5]
	]);
	expect(pairsOf(readings, 'b', 'a').map((p) => [p.a.value, p.b.value])).toEqual([
		[8.4, 8],
		[8.5, 8.1]
	]);
	expect(pairsOf(readings, 'a', 'c')).toEqual([]);
});

it('finds repeats of one kit on one water, each test in one pair', () => {
	const twice = duplicatesOf(
		[read('a', 0, 8), read('a', 0.5, 8.2), read('a', 1, 8.1), read('a', 30, 9), read('a', 30.2, 5, 'tap')],
		'a'
	);
	expect(twice.map((d) => [d.a, d.b])).toEqual([[8, 8.2]]);
	expect(twice[0]!.repeatability).toBeCloseTo(0.1, 12);
});

it('knows what stays with a kit from what does not', () => {
	expect(truenessOf(read('a', 0, 8))).toBeCloseTo(0.24, 12);
	expect(truenessOf({ ...read('a', 0, 8), standardUncertainty: 0.05 })).toBe(0);
});
