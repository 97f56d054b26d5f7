import { nth } from '../base';
import { el, uniform } from '../statistics';
import { SAME } from './plan';
import type { Work } from './work';

/**
 * List schedules (Graham 1969): whatever can begin soonest does, and of several the one of the highest rank, by whoever is free; nothing
 * begins that would make a window of what is under way be missed (earliest deadline first: Jackson 1955). Tried by many ranks, and the
 * best then changed a little again and again (iterated greedy: Ruiz and Stützle 2007). Quick, and proves nothing.
 */

/** Tasks in the order of their starts, and who does each. */
export interface Listed {
	order: number[];
	who: number[];
	end: number;
}

/** Lists by chance beside those by rule, and changes of the best afterwards. */
const BY_CHANCE = 200;
const CHANGES = 2000;
const SEED = 1;
/** What may begin within so many seconds counts as soon: a higher rank may be worth a moment's wait. */
const PATIENCE = [0, 0, 10, 30, 60];
/** Of the ranks a change draws so many anew at most. */
const MOST_CHANGED = 3;

/** Good list schedules, each better than the one before; `spend` is told of the tasks placed, and says whether there may be more. */
export function* lists(work: Work, enough: number, spend: (tasks: number) => boolean): Generator<Listed> {
	const random = uniform(SEED);
	const some = <T>(xs: T[]): T => nth(xs, Math.floor(random() * xs.length));
	const ofTests = (rank: (test: number) => number) => work.tasks.map((t) => rank(t.test));
	const chance = () => {
		const each = work.tests.map(() => random());
		return ofTests((test) => el(each, test));
	};
	const restOf = (task: number) => nth(work.tasks, task).hands + nth(work.tasks, task).tail;
	const whole = (test: number) => {
		const { first, last } = nth(work.tests, test);
		return first < last ? restOf(first) : 0;
	};
	let best: (Listed & { ranks: number[]; patience: number }) | undefined;
	const tried = function* (ranks: number[], patience: number, equal: boolean): Generator<Listed> {
		const found = listed(work, ranks, patience);
		if (!found || (best && (equal ? found.end > best.end + SAME : found.end > best.end - SAME))) return;
		const better = !best || found.end < best.end - SAME;
		best = { ...found, ranks, patience };
		if (better) yield found;
	};
	const rules = [
		// The longest way to go first, by task and by test; the shortest; as they stand.
		work.tasks.map((_, i) => restOf(i)),
		ofTests(whole),
		ofTests((test) => -whole(test)),
		ofTests((test) => -test),
		// What is under way first, and last.
		work.tasks.map((t, i) => i - nth(work.tests, t.test).first),
		work.tasks.map((t, i) => nth(work.tests, t.test).first - i)
	];
	for (let n = 0; n < rules.length + BY_CHANCE + CHANGES; n++) {
		if (best && best.end <= enough + SAME) return;
		if (!spend(work.tasks.length)) return;
		if (n < rules.length) yield* tried(nth(rules, n), 0, false);
		else if (n < rules.length + BY_CHANCE)
			yield* tried(random() < 0.5 ? chance() : work.tasks.map(() => random()), some(PATIENCE), false);
		else if (best) {
			const ranks = [...best.ranks];
			const [least, most] = [Math.min(...ranks), Math.max(...ranks)];
			for (let k = 1 + Math.floor(random() * MOST_CHANGED); k > 0; k--) {
				const drawn = least + random() * (most - least);
				const task = Math.floor(random() * ranks.length);
				// One task, or its whole test.
				if (random() < 0.5) ranks[task] = drawn;
				else
					for (let t = 0; t < ranks.length; t++)
						if (nth(work.tasks, t).test === nth(work.tasks, task).test) ranks[t] = drawn;
			}
			yield* tried(ranks, random() < 0.2 ? some(PATIENCE) : best.patience, true);
		}
	}
}

/** One list schedule; nothing where it ends in a window that nobody can meet, or waits for a thing for ever. */
function listed(work: Work, ranks: number[], patience: number): Listed | undefined {
	const { tasks, tests, capacity } = work;
	const next = tests.map((t) => t.first);
	const ready = tests.map((t) => t.ready);
	const deadline = tests.map((t) => t.deadline);
	const over = tests.map((t) => t.over);
	const free = [...work.free];
	/** Of each thing when each of it is free again. */
	const slots = capacity.map((many) => new Array<number>(many).fill(work.now));
	const holds = tests.map((t) => t.holds);
	for (const held of holds) for (const thing of held) nth(slots, thing).pop();
	let at = work.now;
	let end = work.begunUntil;
	const order: number[] = [];
	const who: number[] = [];
	/** Whether all that is under way can still be taken up in time, the most urgent first. */
	const inTime = (
		hands: number[],
		but: number,
		more?: { ready: number; deadline: number; hands: number }
	) => {
		const due = more && more.deadline < Infinity ? [more] : [];
		for (let i = 0; i < tests.length; i++)
			if (i !== but && el(next, i) < nth(tests, i).last && el(deadline, i) < Infinity)
				due.push({ ready: el(ready, i), deadline: el(deadline, i), hands: nth(tasks, el(next, i)).hands });
		due.sort((a, b) => a.deadline - b.deadline);
		for (const d of due) {
			const person = hands.indexOf(Math.min(...hands));
			const start = Math.max(d.ready, el(hands, person));
			if (start > d.deadline + SAME) return false;
			hands[person] = start + d.hands;
		}
		return true;
	};
	while (order.length < tasks.length) {
		const soonest = Math.max(at, Math.min(...free));
		const may: { test: number; start: number }[] = [];
		for (const [test, { first, last, after, behind }] of tests.entries()) {
			const task = el(next, test);
			if (task >= last) continue;
			let start = Math.max(soonest, el(ready, test));
			if (task === first) {
				if (behind.some((other) => next[other] === nth(tests, other).first)) continue;
				if (after.some((other) => el(next, other) < nth(tests, other).last)) continue;
				for (const other of after) start = Math.max(start, el(over, other));
			}
			for (const thing of nth(tasks, task).uses)
				if (!nth(holds, test).includes(thing)) start = Math.max(start, Math.min(...nth(slots, thing)));
			if (start < Infinity && start <= el(deadline, test) + SAME) may.push({ test, start });
		}
		const first = Math.min(...may.map((m) => m.start));
		const soon = (m: { start: number }) => (m.start <= first + patience ? 0 : m.start);
		may.sort((a, b) => soon(a) - soon(b) || el(ranks, el(next, b.test)) - el(ranks, el(next, a.test)));
		const chosen = may.find(({ test, start }) => {
			const task = nth(tasks, el(next, test));
			const hands = [...free];
			hands[hands.indexOf(Math.min(...hands))] = start + task.hands;
			const goesOn = el(next, test) + 1 < nth(tests, test).last;
			const done = start + task.hands;
			return inTime(
				hands.map((h) => Math.max(h, start)),
				test,
				goesOn
					? {
							ready: done + task.gapLeast,
							deadline: done + task.gapMost,
							hands: nth(tasks, el(next, test) + 1).hands
						}
					: undefined
			);
		});
		if (!chosen) return undefined;
		const { test, start } = chosen;
		const index = el(next, test);
		const task = nth(tasks, index);
		const person = free.indexOf(Math.min(...free));
		const done = start + task.hands;
		order.push(index);
		who.push(person);
		free[person] = done;
		at = start;
		end = Math.max(end, done);
		next[test] = index + 1;
		over[test] = done;
		ready[test] = done + task.gapLeast;
		deadline[test] = done + task.gapMost;
		// What it held and does not go on holding is free from now; what is new is taken; with its last step all is given back.
		const held = nth(holds, test);
		for (const thing of held) if (!task.uses.includes(thing)) nth(slots, thing).push(start);
		for (const thing of task.uses)
			if (!held.includes(thing)) {
				const slot = nth(slots, thing);
				slot.splice(slot.indexOf(Math.min(...slot)), 1);
			}
		const isLast = index + 1 === nth(tests, test).last;
		if (isLast) for (const thing of task.uses) nth(slots, thing).push(done);
		holds[test] = isLast ? [] : task.uses;
	}
	return { order, who, end };
}
