import { normalBelow } from '../statistics';
import { nth } from '../base';

/**
 * The smallest difference of shade an eye tells, by an adaptive staircase: QUEST (Watson and Pelli 1983), each next difference at the mean of
 * what is known (King-Smith et al. 1994). Two vials are shown, one deeper; the answer is which.
 */
export interface Seen {
	/** How much deeper one was, in patches of the card. */
	steps: number;
	right: boolean;
}

/** Misreadings of the finger, whatever the eye: a share of answers is a guess, and each of these shares as likely as another. */
const LAPSES = [0.01, 0.04, 0.08, 0.14];
const GRID_STEP = 0.03;
/** What an eye may scatter by, in patches: evenly likely on a logarithmic scale, decimal logarithms. */
const GRID = Array.from({ length: 93 }, (_, i) => -2 + i * GRID_STEP);
/** Two vials are told apart three times in four where they differ by this many standard deviations. */
const THREE_IN_FOUR = 0.6745;

/** What answers so far say: logarithms of the chance of each scatter of the grid with each share of lapses. */
type Belief = number[];
/** Before any look all are as likely. */
export const noLooks = (): Belief => GRID.flatMap(() => LAPSES.map(() => 0));
/**
 * What is known after one more look (Bayes).
 *
 * @example afterLook(noLooks(), { steps: 1, right: true }).length // → 372
 */
export const afterLook = (belief: Belief, { steps, right }: Seen): Belief =>
	GRID.flatMap((g, i) => {
		const told = normalBelow(steps / 10 ** g);
		return LAPSES.map((lapses, k) => {
			const p = lapses / 2 + (1 - lapses) * told;
			return nth(belief, i * LAPSES.length + k) + Math.log(right ? p : 1 - p);
		});
	});

/** Chance of each scatter of the grid, whatever the lapses. */
function posterior(belief: Belief): number[] {
	const top = Math.max(...belief);
	const weights = GRID.map((_, i) =>
		LAPSES.reduce((sum, _, k) => sum + Math.exp(nth(belief, i * LAPSES.length + k) - top), 0)
	);
	const total = weights.reduce((a, b) => a + b, 0);
	return weights.map((w) => w / total);
}

/** What is known of an eye: scatter of one comparison and smallest difference, in patches, with 95 % intervals. */
interface EyeKnown {
	scatter: number;
	smallest: number;
	interval: [number, number];
	looks: number;
}

/**
 * What answers say of an eye: the median of the posterior, and its 95 % interval, of the difference it tells three times in four.
 *
 * @example eyeBy([{ steps: 0.5, right: true }, { steps: 0.2, right: false }]).looks // → 2
 */
export function eyeBy(looks: Seen[]): EyeKnown {
	const weights = posterior(looks.reduce(afterLook, noLooks()));
	const at = (share: number) => {
		let sum = 0;
		for (let i = 0; i < GRID.length; i++) {
			const before = sum;
			sum += nth(weights, i);
			// Within a cell of the grid evenly.
			if (sum >= share) return 10 ** (nth(GRID, i) + GRID_STEP * ((share - before) / (sum - before) - 0.5));
		}
		return 10 ** nth(GRID, GRID.length - 1);
	};
	const scatter = at(0.5);
	return {
		scatter,
		smallest: THREE_IN_FOUR * scatter,
		interval: [THREE_IN_FOUR * at(0.025), THREE_IN_FOUR * at(0.975)],
		looks: looks.length
	};
}

/** At this many standard deviations an answer tells most of the scatter: nine in ten are right. */
const TELLS = 1.28;
/** No vial is shown this much deeper: it would be off the card; the first look is plain, so that anybody sees what is asked. Patches. */
const MOST_STEPS = 1.2;

/**
 * How much deeper the next vial should be, patches.
 *
 * @example nextSteps(Array.from({ length: 9 }, () => ({ steps: 1, right: true })).reduce(afterLook, noLooks())) < 0.3 // → true
 */
export function nextSteps(belief: Belief): number {
	if (belief.every((b) => b === 0)) return MOST_STEPS;
	const mean = posterior(belief).reduce((sum, w, i) => sum + w * nth(GRID, i), 0);
	return Math.min(MOST_STEPS, TELLS * 10 ** mean);
}
