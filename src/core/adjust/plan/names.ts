import { isKept, type Level } from './level';

/** A day's pour, water change or level by its name in the programme. */
export const named = {
	/** Of days on which a level is kept there is one: the same amount each time. */
	pour: (s: number, t: number, level: Level) => `${isKept(level, t) ? 'k' : 'x'}${s}_${slotOf(level, t)}`,
	act: (s: number, t: number, level: Level) => `y${named.pour(s, t, level)}`,
	level: (p: number, t: number) => `l${p}_${t}`
};
/** Days from which a level that is kept `anew` has another amount: once its first error is worked off, and then each week. */
const KEPT_ANEW = 2;
const KEPT_DAYS = 7;
/** Which amount it is: by its day, or that of all days on which it is kept, or of some of them. */
function slotOf(level: Level, t: number): number {
	if (!isKept(level, t)) return t;
	const kept = t - level.keptFrom;
	return !level.anew || kept < KEPT_ANEW ? 0 : 1 + Math.floor(kept / KEPT_DAYS);
}

/** A variable that is one. */
export const ONE = 'one';
