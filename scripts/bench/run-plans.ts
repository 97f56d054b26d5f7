import { bench, type BenchRequest } from '../../src/core/schedule';
import { stepsOf } from '../../src/core/run';
import { SHIPPED_METHODS } from '../../src/core/methods';
import { demoUpTo, uniform } from '../../src/core/simulate';
import { dueByRoutine } from '../../src/core/targets';
import { parameterOf } from '../../src/core/catalogue';
import type { Row } from './row';

/** Sessions of so many tests chosen by chance, planned; how many of each size. */
const RUNS = 20;
const NOW = new Date('2026-05-06T20:10:00Z');

const requestOf = (ids: string[]): BenchRequest => ({
	tests: ids.map((id) => ({
		id,
		steps: stepsOf(SHIPPED_METHODS.find((m) => m.id === id)!).map(({ label, hands, then, uses }) => ({
			label,
			hands,
			...(then ? { then } : {}),
			...(uses ? { uses } : {})
		}))
	}))
});

/** Planning time beside the time of trying only one order, and the demo's session beside its tests one after another. */
export function runPlans(): Row[] {
	const rows = [4, 8, 12].map((size): Row => {
		let planning = 0;
		let one = 0;
		let proved = 0;
		let gap = 0;
		for (let seed = 1; seed <= RUNS; seed++) {
			const random = uniform(seed * 31 + size);
			const ids = SHIPPED_METHODS.map((m) => ({ id: m.id, at: random() }))
				.sort((a, b) => a.at - b.at)
				.slice(0, size)
				.map((m) => m.id);
			const request = requestOf(ids);
			let started = performance.now();
			const outcome = bench(request);
			planning += performance.now() - started;
			started = performance.now();
			bench({ ...request, effort: 1 });
			one += performance.now() - started;
			if (!outcome.ok) throw new Error('a session of shipped methods cannot be planned');
			proved += Number(outcome.value.proved);
			gap = Math.max(gap, outcome.value.makespan / outcome.value.lowerBound - 1);
		}
		return {
			what: `planning a session of ${size} tests`,
			measured: `${(planning / RUNS).toFixed(0)} ms`,
			against: `${(planning / one).toFixed(0)} times a first guess; ${proved} of ${RUNS} proved, widest gap ${(100 * gap).toFixed(1)} %`
		};
	});
	const tank = demoUpTo(NOW).systems[0]!;
	const newest: Record<string, { at: Date; method: string }> = {};
	for (const r of tank.readings) {
		const { parameter } = SHIPPED_METHODS.find((m) => m.id === r.method)!;
		newest[parameter] = { at: r.at, method: r.method };
	}
	const last = Object.fromEntries(Object.entries(newest).map(([parameter, { at }]) => [parameter, at]));
	const due = dueByRoutine(tank.phase, last, NOW).filter((d) => d.now);
	const outcome = bench(requestOf(due.map((d) => newest[d.parameter]!.method)));
	if (!outcome.ok) throw new Error('the demo’s session cannot be planned');
	const { makespan, oneAfterAnother } = outcome.value;
	const names = due.map((d) => parameterOf(d.parameter)?.symbol ?? d.parameter).join(', ');
	return [
		...rows,
		{
			what: `the demo’s session (${names})`,
			measured: `${(makespan / 60).toFixed(1)} min`,
			against: `${(makespan / oneAfterAnother).toFixed(2)} of one after another (${(oneAfterAnother / 60).toFixed(1)} min)`
		}
	];
}
