import { describe, expect, it } from 'vitest';
import { tries } from '../../../tests/support/length';
import { SHIPPED_METHODS, isKnownValue } from '../methods';
import { uniform } from '../simulate';
import { aloneSeconds, bench } from './bench';
import { stepsOf } from '../run/from-method';
import type { BenchRequest, BenchResult, BenchStep, PlannedStep } from './schema';

/** Sessions by chance that are planned and held against the rules. */
const RUNS = tries(90, 2000);

const planned = (request: BenchRequest): BenchResult => {
	const outcome = bench(request);
	if (!outcome.ok) throw new Error(JSON.stringify(outcome.problems));
	return outcome.value;
};
const step = (hands: number, then?: BenchStep['then'], uses?: string[]): BenchStep => ({
	label: '',
	hands,
	...(then ? { then } : {}),
	...(uses ? { uses } : {})
});

/** Every rule a plan breaks, found from the definition alone. */
function broken(request: BenchRequest, steps: PlannedStep[]): string[] {
	const wrong: string[] = [];
	const at = (test: string, k: number) => steps.find((s) => s.test === test && s.step === k);
	const busy: { from: number; to: number }[] = [];
	const held = new Map<string, { from: number; to: number }[]>();
	for (const test of request.tests) {
		for (const [k, { hands, then, uses }] of test.steps.entries()) {
			const s = at(test.id, k);
			if (!s) return [`${test.id}/${k} is missing`];
			if (Math.abs(s.end - s.start - hands) > 1e-6) wrong.push(`${test.id}/${k} lasts ${s.end - s.start}`);
			if (s.start < 0) wrong.push('before the start');
			busy.push({ from: s.start, to: s.end });
			const next = at(test.id, k + 1);
			for (const thing of uses ?? [])
				held.set(thing, [...(held.get(thing) ?? []), { from: s.start, to: next ? next.start : s.end }]);
			if (!next) continue;
			const gap = next.start - s.end;
			if (gap < (then?.wait ?? 0) - 1e-6) wrong.push(`${test.id}/${k + 1} too early`);
			if (then?.within !== undefined && gap > then.wait + then.within + 1e-6)
				wrong.push(`${test.id}/${k + 1} too late`);
		}
		for (const other of test.after ?? []) {
			const last = request.tests.find((t) => t.id === other)!.steps.length - 1;
			if (at(test.id, 0)!.start < at(other, last)!.end - 1e-6)
				wrong.push(`${test.id} before ${other} is over`);
		}
	}
	const starts = (request.order ?? []).map((id) => at(id, 0)!.start);
	if (starts.some((s, i) => i > 0 && s < starts[i - 1]! - 1e-6)) wrong.push('not in the order asked for');
	if (most(busy) > (request.people ?? 1)) wrong.push('more hands than there are');
	for (const [thing, spans] of held)
		if (most(spans) > (request.equipment?.[thing] ?? 1)) wrong.push(`${thing} twice at once`);
	return wrong;
}

/** How many spans overlap at most; spans that touch do not. */
const most = (spans: { from: number; to: number }[]): number =>
	Math.max(
		0,
		...spans.map(
			({ from, to }) => spans.filter((s) => to > from && s.from < from + 1e-6 && s.to > from + 1e-6).length
		)
	);

const gap = (random: () => number, longest: number): BenchStep['then'] =>
	random() < 0.3
		? undefined
		: {
				wait: Math.floor(random() * longest),
				...(random() < 0.5 ? { within: Math.floor((random() * longest) / 2) } : {})
			};

function smallRun(seed: number): BenchRequest {
	const random = uniform(seed);
	const tests = Array.from({ length: 2 + Math.floor(random() * 2) }, (_, i) => ({
		id: `t${i}`,
		steps: Array.from({ length: 1 + Math.floor(random() * 2.2) }, () =>
			step(1 + Math.floor(random() * 3), gap(random, 5), random() < 0.25 ? ['holder'] : undefined)
		),
		...(i > 0 && random() < 0.2 ? { after: ['t0'] } : {})
	}));
	return {
		tests,
		people: random() < 0.3 ? 2 : 1,
		...(random() < 0.2 ? { order: ['t1', 't0'].filter((id) => !tests[1]?.after || id === 't0') } : {})
	};
}

/** The best there is, by trying every whole second for every step. */
function exhaustive(request: BenchRequest): { makespan: number; switches: number } {
	const all = request.tests.flatMap((t) => t.steps.map((_, k) => ({ test: t, k })));
	let best = { makespan: request.tests.reduce((sum, t) => sum + aloneSeconds(t), 0), switches: Infinity };
	const steps: PlannedStep[] = [];
	const place = (i: number): void => {
		if (i === all.length) {
			if (broken(request, steps).length) return;
			const makespan = Math.max(...steps.map((s) => s.end));
			const inOrder = [...steps].sort((a, b) => a.start - b.start);
			const switches = inOrder.filter((s, k) => s.test !== inOrder[k - 1]?.test).length;
			if (makespan < best.makespan || (makespan === best.makespan && switches < best.switches))
				best = { makespan, switches };
			return;
		}
		const { test, k } = all[i]!;
		const { hands } = test.steps[k]!;
		const before = k > 0 ? steps.at(-1) : undefined;
		const then = k > 0 ? test.steps[k - 1]!.then : undefined;
		const from = before ? before.end + (then?.wait ?? 0) : 0;
		const to = before && then?.within !== undefined ? from + then.within : best.makespan;
		for (let start = from; start <= to && start + hands <= best.makespan; start++) {
			if ((request.people ?? 1) === 1 && steps.some((s) => s.start < start + hands && start < s.end))
				continue;
			steps.push({ test: test.id, step: k, start, end: start + hands });
			place(i + 1);
			steps.pop();
		}
	};
	place(0);
	return best;
}

describe('bench', () => {
	it('fills one wait with another test, by hand', () => {
		// 60 s, ten minutes to stand, 30 s; 100 s fit into the wait.
		const result = planned({
			tests: [
				{ id: 'card', steps: [step(60, { wait: 600, within: 60 }), step(30)] },
				{ id: 'syringe', steps: [step(100)] }
			]
		});
		expect(result).toMatchObject({ makespan: 690, lowerBound: 690, oneAfterAnother: 790, proved: true });
		expect(result.steps.map((s) => [s.test, s.start, s.end])).toEqual([
			['card', 0, 60],
			['syringe', 60, 160],
			['card', 660, 690]
		]);
		expect(result.switches).toBe(3);
	});

	it('begins a test later so that its window does not close on busy hands, by hand', () => {
		// Both stand exactly 100 s: begun 50 s apart or more, since reading takes 50 s.
		const twin = (id: string) => ({ id, steps: [step(10, { wait: 100, within: 0 }), step(50)] });
		const result = planned({ tests: [twin('a'), twin('b')] });
		expect(result.makespan).toBe(10 + 100 + 50 + 50);
		expect(broken({ tests: [twin('a'), twin('b')] }, result.steps)).toEqual([]);
	});

	it('finds what trying everything finds, on 300 small sessions', () => {
		for (let seed = 1; seed <= 300; seed++) {
			const request = smallRun(seed);
			const result = planned(request);
			const best = exhaustive(request);
			expect(broken(request, result.steps), `evening ${seed}`).toEqual([]);
			expect({ seed, makespan: result.makespan, proved: result.proved }).toEqual({
				seed,
				makespan: best.makespan,
				proved: true
			});
			if ((request.people ?? 1) === 1) expect(result.switches, `evening ${seed}`).toBe(best.switches);
		}
	});

	it('gives only valid plans, between the lower bound and one after another', { timeout: 180_000 }, () => {
		for (let seed = 1; seed <= RUNS; seed++) {
			const random = uniform(seed * 7);
			const request: BenchRequest = {
				tests: Array.from({ length: 2 + Math.floor(random() * 9) }, (_, i) => ({
					id: `t${i}`,
					steps: Array.from({ length: 1 + Math.floor(random() * 4) }, () =>
						step(random() * 120, gap(random, 900), random() < 0.15 ? ['meter'] : undefined)
					),
					...(i > 1 && random() < 0.1 ? { after: ['t0'] } : {})
				})),
				people: random() < 0.2 ? 2 : 1,
				equipment: { meter: 1 + Math.floor(random() * 2) },
				effort: 100
			};
			const result = planned(request);
			expect(broken(request, result.steps), `evening ${seed}`).toEqual([]);
			expect(result.lowerBound).toBeLessThanOrEqual(result.makespan + 1e-6);
			expect(result.makespan).toBeLessThanOrEqual(result.oneAfterAnother + 1e-6);
		}
	});

	it('proves eight tests of the shelf, and twelve', () => {
		let saved = 0;
		const RUNS = tries(2, 6);
		for (let seed = 1; seed <= RUNS; seed++)
			for (const n of [8, 12]) {
				const random = uniform(seed * 131 + n);
				const chosen = SHIPPED_METHODS.map((m) => ({ m, at: random() }))
					.sort((a, b) => a.at - b.at)
					.slice(0, n);
				const request = { tests: chosen.map(({ m }) => ({ id: m.id, steps: stepsOf(m) })) };
				const stripped = {
					tests: request.tests.map((t) => ({
						id: t.id,
						steps: t.steps.map(({ label, hands, then, uses }) => ({
							label,
							hands,
							...(then ? { then } : {}),
							...(uses ? { uses } : {})
						}))
					}))
				};
				const result = planned(stripped);
				expect(broken(stripped, result.steps)).toEqual([]);
				expect(result.proved, `${n} tests, seed ${seed}`).toBe(true);
				if (n === 8) saved += 1 - result.makespan / result.oneAfterAnother;
			}
		console.log(
			`measured: evenings of eight shelf tests: ${Math.round((100 * saved) / RUNS)} % of the time saved`
		);
	});

	it('plans the rest without moving what has begun, and names the step that has no time left', () => {
		const tests = [
			{ id: 'card', steps: [step(60, { wait: 300, within: 60 }), step(30)] },
			{ id: 'drops', steps: [step(40), step(100)] }
		];
		const done = [
			{ test: 'card', step: 0, start: 5, end: 70 },
			{ test: 'drops', step: 0, start: 70 }
		];
		const result = planned({ tests, done, now: 90 });
		expect(result.steps.slice(0, 2)).toEqual([
			{ test: 'card', step: 0, start: 5, end: 70 },
			{ test: 'drops', step: 0, start: 70, end: 110 }
		]);
		expect(result.steps.slice(2).map((s) => [s.test, s.start])).toEqual([
			['drops', 110],
			['card', 370]
		]);
		expect(bench({ tests, done, now: 440 })).toEqual({
			ok: false,
			problems: [{ path: '/tests/0/steps/1', message: 'had to begin by second 430; it is second 440' }]
		});
		// Two windows that close while both need the hands: one of them is named.
		const both = [
			{ id: 'a', steps: [step(10, { wait: 100, within: 0 }), step(50)] },
			{ id: 'b', steps: [step(10, { wait: 100, within: 0 }), step(50)] }
		];
		const begun = [
			{ test: 'a', step: 0, start: 0, end: 10 },
			{ test: 'b', step: 0, start: 10, end: 20 }
		];
		const outcome = bench({ tests: both, done: begun });
		expect(!outcome.ok && outcome.problems[0]).toEqual({
			path: '/tests/0/steps/1',
			message: 'cannot begin by second 110 beside what else is under way'
		});
	});

	it('says what contradicts itself', () => {
		const one = { id: 'a', steps: [step(1)] };
		const refused = (request: BenchRequest) => {
			const outcome = bench(request);
			return outcome.ok ? [] : outcome.problems.map((p) => `${p.path} ${p.message}`);
		};
		expect(refused({ tests: [one, one] })).toEqual(['/tests/1/id there are two tests called a']);
		expect(refused({ tests: [{ ...one, after: ['b'] }] })).toEqual(['/tests/0/after/0 there is no test b']);
		expect(
			refused({
				tests: [
					{ ...one, after: ['b'] },
					{ id: 'b', steps: [step(1)], after: ['a'] }
				]
			})
		).toEqual(['/tests/0/after waits for a test that waits for it']);
		expect(
			refused({ tests: [{ id: 'a', steps: [step(1, undefined, ['wheel'])] }], equipment: { wheel: 0 } })
		).toEqual(['/tests/0/steps/0/uses needs a wheel, and there is none']);
		const long = Array.from({ length: 5 }, (_, i) => ({
			id: `t${i}`,
			steps: Array.from({ length: 50 }, () => step(9))
		}));
		expect(refused({ tests: long })).toEqual([
			'/tests have 250 steps; an evening has at most 240: do it in two'
		]);
		expect(refused({ tests: [one], done: [{ test: 'a', step: 1, start: 0 }] })).toEqual([
			'/done/0/step of a is not the one that comes next'
		]);
	});
});

describe('two pairs of hands', () => {
	const cards = (within: number, people: number): BenchRequest => ({
		people,
		tests: Array.from({ length: 10 }, (_, i) => ({
			id: `c${i}`,
			steps: [step(90, { wait: 300, within }), step(20)]
		})),
		effort: tries(4_000, 60_000)
	});
	it.each([60, 20, 0])(
		'do ten five-minute cards, to be read within %d s, in less time than one',
		(within) => {
			const [one, two] = [1, 2].map((people) => planned(cards(within, people)));
			expect(broken(cards(within, 2), two!.steps)).toEqual([]);
			expect(two!.makespan).toBeLessThan(0.7 * one!.makespan);
		}
	);

	const unhurried = ({ then, ...rest }: BenchStep): BenchStep =>
		then ? { ...rest, then: { wait: then.wait } } : rest;

	/** Whatever is next by chance is begun as soon as it may and somebody is free, from the definition alone. */
	function listSchedule(request: BenchRequest, random: () => number): PlannedStep[] {
		const free = Array.from({ length: request.people ?? 1 }, () => 0);
		const next = request.tests.map(() => ({ step: 0, from: 0 }));
		const steps: PlannedStep[] = [];
		for (;;) {
			const open = request.tests.flatMap((t, i) => (next[i]!.step < t.steps.length ? [i] : []));
			if (!open.length) return steps;
			const soonest = Math.min(...free);
			const ready = (i: number) => Math.max(next[i]!.from, soonest);
			const first = Math.min(...open.map(ready));
			const may = open.filter((i) => ready(i) === first);
			const i = may[Math.floor(random() * may.length)]!;
			const test = request.tests[i]!;
			const k = next[i]!.step;
			const { hands, then } = test.steps[k]!;
			const start = ready(i);
			steps.push({ test: test.id, step: k, start, end: start + hands });
			free[free.indexOf(soonest)] = start + hands;
			next[i] = { step: k + 1, from: start + hands + (then?.wait ?? 0) };
		}
	}

	it.each([
		[6, 2, 8_000],
		[14, 3, undefined]
	])(
		'%d tests by %d are never planned worse than by one, nor than whatever comes by chance',
		(count, people, effort) => {
			const random = uniform(17);
			let held = 0;
			for (let n = 0; n < tries(count < 10 ? 4 : 2, 40); n++) {
				const tests = Array.from({ length: count }, (_, i) => ({
					id: `t${i}`,
					steps: Array.from({ length: 1 + Math.floor(random() * 3) }, () =>
						step(20 + Math.floor(random() * 100), gap(random, 400))
					)
				}));
				const request = { tests, people, ...(effort ? { effort } : {}) };
				const several = planned(request);
				expect(broken(request, several.steps)).toEqual([]);
				expect(several.makespan).toBeLessThanOrEqual(planned({ ...request, people: 1 }).makespan + 1e-6);
				if (several.makespan <= several.lowerBound + 1e-6) expect(several.proved).toBe(true);
				for (let k = 0; k < 200; k++) {
					const list = listSchedule(request, random);
					if (broken(request, list).length) continue;
					held++;
					expect(several.makespan).toBeLessThanOrEqual(Math.max(...list.map((s) => s.end)) + 1e-6);
				}
				// Windows cut most lists by chance off: the same tests without windows are held against every list.
				const open = { ...request, tests: tests.map((t) => ({ ...t, steps: t.steps.map(unhurried) })) };
				const best = planned(open).makespan;
				for (let k = 0; k < 200; k++)
					expect(best).toBeLessThanOrEqual(Math.max(...listSchedule(open, random).map((s) => s.end)) + 1e-6);
			}
			if (count < 10) expect(held).toBeGreaterThan(20);
		}
	);
});

it('proves eight mixed tests that share a meter, a filter stand and a holder', () => {
	const random = uniform(5);
	for (const people of [1, 2])
		for (let n = 0; n < tries(2, 12); n++) {
			const pool = SHIPPED_METHODS.filter((m) => !isKnownValue(m) && !m.takeAway && !m.continues);
			const tests = Array.from({ length: 8 }, () => {
				const [m] = pool.splice(Math.floor(random() * pool.length), 1);
				const steps = stepsOf(m!).map((s, i): BenchStep =>
					i === 1 && random() < 0.5 ? { ...s, uses: ['holder'] } : s
				);
				return { id: m!.id, steps };
			});
			const { proved, makespan, lowerBound } = planned({ tests, people });
			expect(proved || makespan <= 1.02 * lowerBound).toBe(true);
		}
});
