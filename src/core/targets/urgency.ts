import type { Judgement } from './judge-schema';

/** From this rank on a judgement is no worry. */
const GOOD_TO_KNOW = 3;
/** A judgement's rank outweighs any number of lesser ones, and those any number of tests due. */
const OF_RANK = 1e6;
const OF_WORRY = 1e3;

/** What of a tank worries, the worst first, and how soon it wants a look: the smaller, the sooner. */
interface Urgency {
	worries: Judgement[];
	order: number;
}

/**
 * How soon each of many tanks wants a look, by what is judged of it (the worst first) and by how many tests are due.
 *
 * @example urgencyOf([], 0).worries // → []
 */
export function urgencyOf(judgements: Judgement[], due: number): Urgency {
	const worries = judgements.filter((j) => j.rank < GOOD_TO_KNOW);
	const rank = worries[0]?.rank ?? GOOD_TO_KNOW + 1;
	return { worries, order: rank * OF_RANK - worries.length * OF_WORRY - due };
}
