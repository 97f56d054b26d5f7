import { expect, it } from 'vitest';
import { runOf, type RunEvent } from '$core/run';
import { SHIPPED_METHODS } from '$core/methods';
import { effectOf, letterOf, markInWords, otherFor, resultsOf } from './results';

const methodOf = (id: string) => SHIPPED_METHODS.find((m) => m.id === id);
const T0 = Date.parse('2026-05-06T18:00:00Z');

/** A session of calcium and of magnesium by difference, in which all steps are done at once. */
function startRun(calcium: object, magnesium: object) {
	const events: object[] = [
		{
			kind: 'begin',
			tests: [
				{ id: 'ca', methodVersionId: 'ca-drops', vial: 1 },
				{ id: 'mg', methodVersionId: 'mg-after-ca', vial: 2, after: ['ca'] }
			],
			people: 1,
			order: [],
			save: 'together'
		}
	];
	const through = (id: string, taken: object) => {
		const steps = runOf(stamped(events), methodOf)!.tests.find((t) => t.id === id)!.steps.length;
		for (let step = 0; step < steps - 1; step++) events.push({ kind: 'end', test: id, step });
		events.push({ kind: 'read', test: id, step: steps - 1, taken });
	};
	through('ca', calcium);
	through('mg', magnesium);
	return runOf(stamped(events), methodOf)!;
}
const stamped = (events: object[]) =>
	events.map((e, i) => ({
		id: `e${String(i).padStart(3, '0')}`,
		at: new Date(T0 + 20_000 * i).toISOString(),
		...e
	})) as RunEvent[];

it('takes calcium of the same session away from the total, before either is saved', () => {
	const run = startRun(
		{ readingId: 'r1', sampleSize: 'full', reading: { drops: 28 } },
		{ readingId: 'r2', sampleSize: 'full', reading: { used: 0.65 }, takenAwayId: 'r1' }
	);
	const [calcium, magnesium] = resultsOf(run, methodOf, []);
	// 28 × 15.03 mg/L of calcium; 0.65 mL × 2430.5 as magnesium, less
	// calcium in the ratio of the atoms.
	expect(calcium!.measured!.value).toBeCloseTo(420.8, 1);
	expect(magnesium!.measured!.value).toBeCloseTo(0.65 * 2430.5 - 420.8 * (24.305 / 40.078), 1);
	expect(magnesium!.measured!.standardUncertainty!).toBeGreaterThan(calcium!.measured!.standardUncertainty!);
	expect(otherFor(methodOf('mg-after-ca')!, undefined, [calcium!], undefined)).toMatchObject({
		id: 'r1',
		parameter: 'calcium',
		unit: 'mg/L'
	});
	expect(otherFor(methodOf('alk-drops')!, undefined, [calcium!], undefined)).toBeUndefined();
	expect(letterOf('run', 'water', magnesium!)).toEqual({
		sourceId: 'water',
		sampleId: 'run',
		takenAt: new Date(magnesium!.taken.at).toISOString(),
		methodVersionId: 'mg-after-ca',
		reading: { used: 0.65 },
		sampleSize: 'full',
		takenAwayId: 'r1',
		runId: 'run'
	});
});

it('says so where the total’s calcium is not known', () => {
	const run = startRun(
		{ readingId: 'r1', sampleSize: 'full', reading: { drops: 28 } },
		{ readingId: 'r2', sampleSize: 'full', reading: { used: 0.65 }, takenAwayId: 'elsewhere' }
	);
	expect(resultsOf(run, methodOf, [])[1]!.measured).toBeUndefined();
});

it.each([
	[{ kind: 'skipped', act: 'mix', label: '' } as const, 'mixing skipped'],
	[{ kind: 'short', seconds: 25.4, of: 60, act: 'mix', label: '' } as const, 'mixing 25 s of 1:00'],
	[{ kind: 'late', seconds: 80, act: 'match', label: '' } as const, 'matching 1:20 late'],
	[{ kind: 'early', seconds: 100, of: 300, act: 'read', label: '' } as const, 'reading after 1:40 of 5:00']
])('a mark in words: %o', (mark, words) => expect(markInWords(mark)).toBe(words));

it('says what lateness does: colours deepen, titrations scatter', () => {
	expect(effectOf(methodOf('no3-card')!, 'late')).toContain('too high');
	expect(effectOf(methodOf('po4-meter')!, 'early')).toContain('too low');
	expect(effectOf(methodOf('alk-drops')!, 'late')).not.toContain('too high');
});
