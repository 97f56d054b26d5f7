import type { PlanWish } from './plans';

/** How far a plan looks, days, where nothing is said. */
export const PLAN_DAYS = 14;

/** A wish as the query of an address; what is usual is left out. */
export function queryOf({ prefer, days, without, noChangeBefore }: PlanWish): string {
	const query = new URLSearchParams();
	if (prefer && prefer !== 'soonest') query.set('prefer', prefer);
	if (days && days !== PLAN_DAYS) query.set('days', String(days));
	if (without?.length) query.set('without', without.join(','));
	if (noChangeBefore !== undefined && noChangeBefore !== 0)
		query.set('noChangeBefore', String(noChangeBefore));
	return query.size ? `?${query}` : '';
}

/** The same wish so many days later: what was to wait has waited so long. */
export const wishSince = ({ noChangeBefore, ...wish }: PlanWish, days: number): PlanWish => ({
	...wish,
	...(typeof noChangeBefore === 'number'
		? noChangeBefore > days
			? { noChangeBefore: noChangeBefore - days }
			: {}
		: noChangeBefore === undefined
			? {}
			: { noChangeBefore })
});
