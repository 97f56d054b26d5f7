import { expect, it } from 'vitest';
import { dueByRoutine, dueTests } from './due';
import { dueTogether } from './due-together';
import { ownBands, SCHOOLS, targets } from './schools';

it('lists what is due by the routine, the most overdue first, and takes along what is nearly due', () => {
	const now = new Date('2026-05-06T20:00:00Z');
	const ago = (days: number) => new Date(now.getTime() - days * 86_400_000);
	const due = dueByRoutine(
		'settled',
		{ alkalinity: ago(6), calcium: ago(40), nitrate: ago(2), iodine: ago(90), salinity: ago(3) },
		now
	);
	expect(due.map((d) => [d.parameter, d.now])).toEqual([
		['calcium', true],
		// A day early is near enough for a session that is held anyway.
		['alkalinity', true],
		['salinity', false],
		['nitrate', false]
	]);
	expect(due[0]!.why).toEqual({ kind: 'routine', last: ago(40).toISOString(), everyDays: 28 });
	// While it cycles the same tank asks for other tests.
	expect(dueByRoutine('cycling', { ammonia: ago(2), calcium: ago(40) }, now).map((d) => d.parameter)).toEqual(
		['ammonia']
	);
});

it('asks sooner where the forecast is unsure or something happened', () => {
	const now = new Date('2026-05-06T20:00:00Z');
	const ago = (days: number) => new Date(now.getTime() - days * 86_400_000);
	const last = { alkalinity: ago(1), magnesium: ago(10) };
	const due = dueTests(
		'settled',
		last,
		{ alkalinity: { at: ago(-2), why: 'unsure' } },
		[
			{ at: ago(2), kind: 'water change' },
			{ at: ago(0.5), kind: 'death' },
			{ at: ago(0.1), kind: 'new pack', parameter: 'alkalinity' }
		],
		now
	);
	expect(due.map((d) => [d.parameter, d.now, d.why.kind])).toEqual([
		...['ammonia', 'nitrite', 'ph', 'temperature', 'salinity'].map((p) => [p, true, 'died']),
		['magnesium', true, 'changed'],
		['alkalinity', true, 'new-pack']
	]);
	// What is odd stands before what is long overdue.
	const odd = dueTests(
		'settled',
		{ ...last, calcium: ago(90) },
		{ alkalinity: { at: now, why: 'odd' } },
		[],
		now
	);
	expect(odd[0]).toMatchObject({
		parameter: 'alkalinity',
		now: true,
		why: { kind: 'odd' }
	});
	// Tested since, nothing asks.
	const after = { alkalinity: now, magnesium: now, ammonia: now };
	expect(dueTests('settled', after, {}, [{ at: ago(2), kind: 'water change' }], now).some((d) => d.now)).toBe(
		false
	);
});

it('gives every school ideals inside bands inside alarms, and puts the keeper’s own bands first', () => {
	for (const { id } of SCHOOLS)
		for (const phase of ['cycling', 'settled'] as const) {
			const outcome = targets({ school: id, phase });
			for (const [name, t] of Object.entries(outcome.ok ? outcome.value.targets : {})) {
				const order = [t.alarm[0], t.lower, t.ideal, t.upper, t.alarm[1]];
				expect(
					[...order].sort((a, b) => a - b),
					`${id} ${name}`
				).toEqual(order);
				expect(t.healthyPerDay).toBeGreaterThan(0);
			}
		}
	const own = targets({
		school: 'natural levels',
		phase: 'settled',
		own: { alkalinity: { lower: 9, upper: 10 } }
	});
	expect(own.ok && own.value.targets['alkalinity']).toMatchObject({ lower: 9, upper: 10, ideal: 9.5 });
	expect(
		targets({ school: 'natural levels', phase: 'settled', own: { calcium: { lower: 9, upper: 1 } } }).ok
	).toBe(false);
	// However wide a band was set while it cycled, animals bear no more of a poison.
	const wide = targets({
		school: 'natural levels',
		phase: 'settled',
		own: { ammonia: { lower: 0, upper: 4 } }
	});
	expect(wide.ok && wide.value.targets['ammonia']!.alarm).toEqual([0, 0.5]);
});

it('takes bands that a phase of the school has for the phase’s, and all others for the keeper’s own', () => {
	const written = {
		ammonia: { lower: 0, upper: 4 },
		nitrate: { lower: 1, upper: 10 },
		alkalinity: { lower: 7, upper: 8.5 }
	};
	expect(ownBands('natural levels', written)).toEqual({ alkalinity: { lower: 7, upper: 8.5 } });
	expect(ownBands('own', written)).toEqual(written);
});

it('asks for what stands on the shelf and was never measured, where the routine asks for it', () => {
	const now = new Date('2026-05-06T20:00:00Z');
	const due = dueTests('cycling', { ammonia: now }, {}, [], now, ['ammonia', 'nitrite', 'calcium', 'iodine']);
	expect(due.filter((d) => d.now).map((d) => [d.parameter, d.why.kind])).toEqual([['nitrite', 'never']]);
	expect(dueTests('settled', {}, {}, [], now, ['calcium']).map((d) => d.now)).toEqual([true]);
	expect(dueTests('settled', {}, {}, [], now)).toEqual([]);
});

it('puts tests on one session that are due within two days of its first: overdue ones today, far ones not at all', () => {
	const days = (due: number[]) => dueTogether(due, (d) => d, 60).map(({ day, tests }) => [day, ...tests]);
	expect(days([-30, -1, 2, 3, 5, 6])).toEqual([
		[0, -30, -1, 2],
		[3, 3, 5],
		[6, 6]
	]);
	expect(days([60, 61, 400])).toEqual([[60, 60]]);
	expect(days([])).toEqual([]);
});
