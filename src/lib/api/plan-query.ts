import type { Move, PlanWish } from '../../core/adjust';

/** The water change among moves, which names no bottle. */
export const CHANGE = 'change';
/** An amount for an address: never 1e-7. */
const figures = (amount: number): string => String(Number(amount.toFixed(4)));
/** How far a plan looks, days, where nothing is said. */
export const PLAN_DAYS = 14;

/** A wish as the query of an address; what is usual is left out. */
export function queryOf({ prefer, days, without, noChangeBefore, moves }: PlanWish): string {
	const query = new URLSearchParams();
	if (prefer && prefer !== 'soonest') query.set('prefer', prefer);
	if (days && days !== PLAN_DAYS) query.set('days', String(days));
	if (without?.length) query.set('without', without.join(','));
	if (noChangeBefore !== undefined && noChangeBefore !== 0)
		query.set('noChangeBefore', String(noChangeBefore));
	if (moves?.length)
		query.set(
			'moves',
			moves
				.map(({ supplement = CHANGE, from, to, amount }) =>
					[supplement, from, to, ...(amount === undefined ? [] : [figures(amount)])].join(':')
				)
				.join(',')
		);
	return query.size ? `?${query}` : '';
}

/** The same wish so many days later: what was to wait has waited so long, and what was moved stands on its day. */
export const wishSince = ({ noChangeBefore, moves = [], ...wish }: PlanWish, days: number): PlanWish => ({
	...wish,
	...withMoves(
		moves.flatMap((m) =>
			m.to < days ? [] : [{ ...m, from: m.from < days ? m.to - days : m.from - days, to: m.to - days }]
		)
	),
	...(typeof noChangeBefore === 'number'
		? noChangeBefore > days
			? { noChangeBefore: noChangeBefore - days }
			: {}
		: noChangeBefore === undefined
			? {}
			: { noChangeBefore })
});

/**
 * One more glass moved by hand. One that was moved before goes on from where it stands, and back to its own day is no move.
 * @example withMove([{ from: 0, to: 3 }], { from: 3, to: 5 }) // → [{ from: 0, to: 5 }]
 */
export function withMove(moves: Move[], next: Move): Move[] {
	const stood = moves.find((m) => m.supplement === next.supplement && m.to === next.from);
	const moved = { ...next, from: stood?.from ?? next.from };
	return [...moves.filter((m) => m !== stood), ...(moved.from === moved.to ? [] : [moved])];
}
/** Moves of a wish; none is no key at all. */
export const withMoves = (moves: Move[]): Pick<PlanWish, 'moves'> => (moves.length ? { moves } : {});
