import { instrumentOf, type Method } from '../instruments';

/** A meter, a thermometer or a refractometer shows its number itself; every other instrument needs the chart of its leaflet. */
export const needsChart = (reads: Method['reads']): boolean => instrumentOf({ reads }).needsChart;

/**
 * Whether what is read counts: the instrument shows its number itself, or its scale is that of the leaflet in the keeper's hand.
 *
 * @example hasOwnChart(SHIPPED_METHODS[0]) // → false
 */
export const hasOwnChart = (method: Method): boolean =>
	!needsChart(method.reads) || method.chart !== 'template';

/**
 * Whether a reading by a method counts: its own chart, and that of what it takes away from another's answer.
 *
 * @example readingCounts(withOwnChart(SHIPPED_METHODS[0]), undefined) // → true
 */
export const readingCounts = (method: Method, takenAway: { ownChart: boolean } | undefined): boolean =>
	hasOwnChart(method) && takenAway?.ownChart !== false;

/**
 * The same method by a chart of the keeper's own.
 *
 * @example hasOwnChart(withOwnChart(SHIPPED_METHODS[0])) // → true
 */
export function withOwnChart<T extends Method>(method: T): T {
	const { chart: _chart, ...own } = method;
	return own as T;
}
