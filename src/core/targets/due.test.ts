import { expect, it } from 'vitest';
import { dueByRoutine, dueTests } from './due';
import { judge, type Known } from './judge';
import { SCHOOLS, targets } from './schools';

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
		// A day early is near enough for an evening that is held anyway.
		['alkalinity', true],
		['salinity', false],
		['nitrate', false]
	]);
	expect(due[0]!.why).toBe('last 40 days ago; every 28 days');
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
		{ alkalinity: ago(-2) },
		[
			{ at: ago(2), kind: 'water change' },
			{ at: ago(0.5), kind: 'death' },
			{ at: ago(0.1), kind: 'new pack', parameter: 'alkalinity' }
		],
		now
	);
	expect(due.map((d) => [d.parameter, d.now, d.why])).toEqual([
		['magnesium', true, 'water was changed; new salt may be short of it'],
		['alkalinity', true, 'a new pack was opened: compare it'],
		['ammonia', true, 'something died']
	]);
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
});

it('judges: out, odd, thin water, uses out of step, a swing, a long zero, the end of a cycle', () => {
	const NOW = Date.parse('2026-05-06T20:00:00Z');
	const settled = targets({ school: 'raised levels', phase: 'settled' });
	const target = (p: string) => (settled.ok ? settled.value.targets[p]! : undefined)!;
	const known = (parameter: string, value: number, more: Partial<Known> = {}): Known => ({
		parameter,
		title: parameter,
		now: { value, standardDeviation: 0.01 * value },
		netPerDay: { value: 0, standardDeviation: 0.02 },
		usePerDay: { value: 0, standardDeviation: 0.02 },
		leavesBand: null,
		tests: [{ at: NOW, value }],
		oddLast: false,
		target: target(parameter),
		...more
	});
	const said = (...all: Known[]) => judge(all, NOW).map((j) => `${j.rank} ${j.text}`);
	expect(said(known('alkalinity', 7))).toEqual(['1 alkalinity is below its band.']);
	expect(said(known('alkalinity', 5))[0]).toContain(
		'0 alkalinity is below its band, where animals are harmed'
	);
	expect(said(known('alkalinity', 7, { oddLast: true }))[0]).toContain('Repeat it before acting');
	// 385 at 32 PSU is 421 at 35.
	expect(said(known('calcium', 385), known('salinity', 32)).join()).toContain('would be 421 at 35 PSU');
	const using = (value: number, standardDeviation: number) => ({ usePerDay: { value, standardDeviation } });
	expect(
		said(known('alkalinity', 8.7, using(0.7, 0.05)), known('calcium', 430, using(1, 0.4))).join()
	).toContain('where 5 is expected');
	expect(said(known('alkalinity', 8.7, using(0.7, 0.05)), known('calcium', 430, using(5.2, 0.4)))).toEqual(
		[]
	);
	const tests = [0, 1].map((d) => ({ at: NOW - d * 86_400_000, value: 8.7 - 1.2 * d }));
	expect(said(known('alkalinity', 8.7, { tests })).join()).toContain('moved by 1.2 within a day');
	const nothing = [0, 15, 30].map((d) => ({ at: NOW - d * 86_400_000, value: null, below: 0.5 }));
	expect(said(known('nitrate', 0.2, { tests: nothing })).join()).toContain('at nothing for 30 days');
	const quiet = [0, 2, 4].map((d) => ({ at: NOW - d * 86_400_000, value: null, below: 0.1 }));
	const cycled = targets({ school: 'raised levels', phase: 'cycling' });
	expect(
		said(
			known('ammonia', 0.02, {
				tests: quiet,
				target: (cycled.ok && cycled.value.targets['ammonia']) || target('ammonia')
			}),
			known('nitrate', 60, { target: { ...target('nitrate'), upper: 15 } })
		).join()
	).toContain('A water change of 80 % brings nitrate home');
});
