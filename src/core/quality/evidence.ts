import { HOUR, nth } from '../base';
import type { CompareRequest, ScorecardRequest } from './schema';

/** A reading that counts, as evidence of its kit: `at` in ms, numbers in the parameter's own unit. */
export interface KitReading {
	methodId: string;
	sourceId: string;
	at: number;
	value: number;
	standardUncertainty: number;
	repeatability: number;
	/** Nothing where its scale has no steps to speak of; where it is left out, values that come again tell. */
	quantisation?: number | undefined;
}
/** Tests of one water this near each other, ms, are tests of the same: a tank moves by a twentieth of a dKH in that time. */
export const SAME_WATER = 3 * HOUR;

/**
 * Tests of one water by two kits at the same time, each test once, oldest first.
 *
 * @example pairsOf([{ methodId: 'a', sourceId: 's', at: 0, value: 8, standardUncertainty: 0.2, repeatability: 0.1 }, { methodId: 'b', sourceId: 's', at: 60000, value: 8.4, standardUncertainty: 0.2, repeatability: 0.1 }], 'a', 'b')[0].b.value // → 8.4
 */
export function pairsOf(
	readings: KitReading[],
	a: string,
	b: string
): (CompareRequest['pairs'][number] & { sourceId: string })[] {
	const left = readings.filter((r) => r.methodId === b).sort((x, y) => x.at - y.at);
	const sideOf = ({ value, standardUncertainty, repeatability, quantisation }: KitReading) => ({
		value,
		standardUncertainty,
		repeatability,
		...(quantisation === undefined ? {} : { quantisation })
	});
	return readings
		.filter((r) => r.methodId === a)
		.sort((x, y) => x.at - y.at)
		.flatMap((r) => {
			const near = left.filter((o) => o.sourceId === r.sourceId && Math.abs(o.at - r.at) <= SAME_WATER);
			if (!near.length) return [];
			const other = near.reduce((x, y) => (Math.abs(y.at - r.at) < Math.abs(x.at - r.at) ? y : x));
			left.splice(left.indexOf(other), 1);
			return [{ a: sideOf(r), b: sideOf(other), at: new Date(r.at).toISOString(), sourceId: r.sourceId }];
		});
}

/**
 * Tests of one water by one kit, twice at the same time.
 *
 * @example duplicatesOf([{ methodId: 'a', sourceId: 's', at: 0, value: 8, standardUncertainty: 0.2, repeatability: 0.1 }, { methodId: 'a', sourceId: 's', at: 60000, value: 8.2, standardUncertainty: 0.2, repeatability: 0.1 }], 'a')[0].b // → 8.2
 */
export function duplicatesOf(
	readings: KitReading[],
	kit: string
): NonNullable<ScorecardRequest['methods'][number]['duplicates']> {
	const its = readings
		.filter((r) => r.methodId === kit)
		.sort((x, y) => x.sourceId.localeCompare(y.sourceId) || x.at - y.at);
	const twice: NonNullable<ScorecardRequest['methods'][number]['duplicates']> = [];
	for (let i = 1; i < its.length; i++) {
		const [one, other] = [nth(its, i - 1), nth(its, i)];
		if (one.sourceId !== other.sourceId || other.at - one.at > SAME_WATER) continue;
		twice.push({
			a: one.value,
			b: other.value,
			repeatability: Math.sqrt((one.repeatability ** 2 + other.repeatability ** 2) / 2)
		});
		// Each test is of one pair.
		i++;
	}
	return twice;
}

/**
 * What stays with a kit, of one reading.
 *
 * @example truenessOf({ methodId: 'a', sourceId: 's', at: 0, value: 8, standardUncertainty: 0.5, repeatability: 0.3 }) // → 0.4
 */
export const truenessOf = ({
	standardUncertainty,
	repeatability
}: Pick<KitReading, 'standardUncertainty' | 'repeatability'>): number =>
	Math.sqrt(Math.max(0, standardUncertainty ** 2 - repeatability ** 2));
