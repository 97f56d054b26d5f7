import { parametersWith } from '../../catalogue';
import type { PlannedParameter } from './schema';

/** Shares and names that more than one part of a plan goes by. */

/** So many standard deviations to one side hold 99 %, normal distribution. */
export const Z99 = 2.326;
/** Half of the way from the ideal to a limit: where a level is wanted, so that noise does not carry it out. */
export const INNER = 0.5;
/** Of a healthy day, so that a net volume that is a tenth less does not make it too much. */
export const CAREFUL = 0.8;
/** Ions that go with sea salt: what thickens or thins salinity does so to them. */
export const IONS: string[] = parametersWith('ion');
/** What new water holds none of, unless it is said to. */
export const FOOD: string[] = parametersWith('nutrient');
/** Amounts have three figures: a thousandth of a band is nothing. */
export const ROUNDED = 1e-3;

/** Where animals come to harm; a band's width beyond the band where nothing is said. */
export const alarmOf = ({
	alarm,
	band: { lower, upper }
}: Pick<PlannedParameter, 'alarm' | 'band'>): [number, number] =>
	alarm ?? [Math.max(0, 2 * lower - upper), 2 * upper - lower];

/** The slope of the chord of hypot(a, r·d) from d = 0 to `most`, which lies above it all the way between. */
export const chordOf = (a: number, r: number, most: number): number =>
	most > 0 ? (Math.hypot(a, r * most) - a) / most : r;
