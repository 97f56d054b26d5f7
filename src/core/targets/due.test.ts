import { expect, it } from 'vitest';
import { dueByRoutine } from './due';

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
