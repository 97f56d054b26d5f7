import { good, type Outcome } from '../base';
import { chiSquareAbove, chiSquareQuantile, median, normalBelow } from '../statistics';
import type { ScorecardRequest, ScorecardResult } from './schema';

type Asked = ScorecardRequest['methods'][number];
type Card = ScorecardResult['methods'][number];

/**
 * What each method of a parameter was worth in what was done with it: time of hands and of waiting, cost, error, scatter of duplicates, slips and
 * bias; and which is the surest, the quickest and the cheapest.
 *
 * @example scorecard({ methods: [{ id: 'a', pack: { tests: 50, price: 20 } }, { id: 'b', pack: { tests: 20, price: 20 } }] }).value.cheapest // → 'a'
 */
export function scorecard({ methods }: ScorecardRequest): Outcome<ScorecardResult> {
	const cards = methods.map(cardOf);
	const least = (of: (card: Card) => number | undefined): string | undefined => {
		const known = cards.flatMap((card) => {
			const its = of(card);
			return its === undefined ? [] : [{ id: card.id, its }];
		});
		return known.length > 1 ? known.reduce((a, b) => (b.its < a.its ? b : a)).id : undefined;
	};
	const surest = least((c) => c.standardUncertainty);
	const quickest = least((c) => c.hands);
	const cheapest = least((c) => c.cost);
	return good({
		methods: cards,
		...(surest ? { surest } : {}),
		...(quickest ? { quickest } : {}),
		...(cheapest ? { cheapest } : {})
	});
}

function cardOf({ id, times, pack, errors, duplicates, slips, bias, seen }: Asked): Card {
	return {
		id,
		...(times?.length
			? { hands: median(times.map((t) => t.hands)), wait: median(times.map((t) => t.wait)) }
			: {}),
		...(pack ? { cost: pack.price / pack.tests } : {}),
		...(errors?.length ? { standardUncertainty: median(errors) } : {}),
		...(duplicates?.length ? { scatter: scatterOf(duplicates) } : {}),
		...(slips?.readings
			? {
					slips: {
						asked: slips.asked / slips.readings,
						admitted: slips.admitted / slips.readings
					}
				}
			: {}),
		...(bias
			? {
					bias: {
						...bias,
						chance:
							bias.standardUncertainty > 0
								? 2 * normalBelow(-Math.abs(bias.value) / bias.standardUncertainty)
								: 0
					}
				}
			: {}),
		...(seen?.length ? { seeing: seeingOf(seen) } : {})
	};
}

/** Less often than this by chance alone, and one is called the better. */
const CLEARLY_BETTER = 0.05;

/** Eye against photograph, of the same vials of known content: a sign test (Dixon & Mood 1946), ties left out. */
function seeingOf(seen: NonNullable<Asked['seen']>): NonNullable<Card['seeing']> {
	const off = (of: 'camera' | 'eye') =>
		Math.sqrt(seen.reduce((sum, s) => sum + (s[of] - s.truth) ** 2, 0) / seen.length);
	const nearer = seen.filter((s) => Math.abs(s.camera - s.truth) < Math.abs(s.eye - s.truth)).length;
	const further = seen.filter((s) => Math.abs(s.camera - s.truth) > Math.abs(s.eye - s.truth)).length;
	const chance = signTest(nearer, further);
	return {
		readings: seen.length,
		camera: off('camera'),
		eye: off('eye'),
		cameraNearer: nearer,
		chance,
		better: chance >= CLEARLY_BETTER ? 'unsure' : nearer > further ? 'camera' : 'eye'
	};
}

/** Two-sided chance of a split as uneven as this one, were both as likely. */
function signTest(a: number, b: number): number {
	const n = a + b;
	let term = 0.5 ** n;
	let sum = 0;
	for (let k = 0; k <= Math.min(a, b); k++) {
		sum += term;
		term *= (n - k) / (k + 1);
	}
	return n === 0 ? 1 : Math.min(1, 2 * sum);
}

/**
 * Half the squared difference of a pair: what one test scatters by, squared (ISO 5725-2). The same twice is not a scatter of nothing: within a step of its
 * scale nobody saw a difference, and what the method says of itself stands.
 */
const squareOf = ({ a, b, repeatability }: NonNullable<Asked['duplicates']>[number]): number =>
	a === b ? repeatability ** 2 : (a - b) ** 2 / 2;

/** What one test scatters by, from pairs of the same water, with its chi-square interval. */
function scatterOf(duplicates: NonNullable<Asked['duplicates']>): NonNullable<Card['scatter']> {
	const pairs = duplicates.length;
	const square = duplicates.reduce((sum, d) => sum + squareOf(d), 0);
	const value = Math.sqrt(square / pairs);
	const stated = Math.sqrt(duplicates.reduce((sum, d) => sum + d.repeatability ** 2, 0) / pairs);
	const limit = (chance: number) => Math.sqrt(square / chiSquareQuantile(chance, pairs));
	const ratios = duplicates.reduce((sum, d) => sum + squareOf(d) / d.repeatability ** 2, 0);
	return {
		value,
		interval: [limit(0.975), limit(0.025)],
		pairs,
		ratio: value / stated,
		chance: chiSquareAbove(ratios, pairs)
	};
}

/** A method's own figure for its scatter is worth so many pairs, and gives way only to as many of the keeper's. */
const WORTH_PAIRS = 10;

/**
 * How much more, or less, one test scatters in these hands than its method says, from duplicates of the same water, once there are enough
 * of them: the method's figure as a prior of its own degrees of freedom (scaled inverse chi-square). Undefined before.
 *
 * @example ownScatter(Array.from({ length: 10 }, () => ({ a: 8, b: 8.2, repeatability: 0.1 }))).ratio // → 1.225
 */
export function ownScatter(
	duplicates: NonNullable<Asked['duplicates']>
): { ratio: number; pairs: number } | undefined {
	const pairs = duplicates.length;
	if (pairs < WORTH_PAIRS) return undefined;
	const squares = duplicates.reduce((sum, d) => sum + squareOf(d) / d.repeatability ** 2, 0);
	return { ratio: Math.sqrt((WORTH_PAIRS + squares) / (WORTH_PAIRS + pairs)), pairs };
}
