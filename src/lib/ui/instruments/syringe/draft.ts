import {
	parseSyringeEntry,
	type PlungerSeen,
	type SyringeMethod,
	type SyringeReading
} from '$core/instruments';
import { good, type Outcome } from '$core/base';
import { complement, written, type Plunger } from './plunger-text';

export interface SyringeDraft {
	readAs: 'left' | 'used';
	refills: number;
	/** What a photograph said; the picture itself waits beside (`photo-drafts.ts`). */
	seenPlunger?: PlungerSeen | undefined;
}
interface Typed extends SyringeDraft {
	text: string;
}

export function syringeRead({ text, readAs, refills, seenPlunger }: Typed): Outcome<SyringeReading> {
	const entry = parseSyringeEntry(text, readAs);
	return entry.ok
		? good({
				...entry.value,
				...(refills ? { refills } : {}),
				...(seenPlunger ? { camera: seenPlunger } : {})
			})
		: entry;
}

const text = (seen: Plunger) => (typeof seen === 'number' ? String(seen) : seen.join('-'));
export const syringeTyped = (reading: SyringeReading): Partial<Typed> => ({
	...('left' in reading
		? { text: text(reading.left), readAs: 'left' }
		: { text: text(reading.used), readAs: 'used' }),
	refills: reading.refills ?? 0,
	seenPlunger: reading.camera
});

/** Where the plunger stands, mL left; full where nothing is read. */
export function plungerLeft(
	{ syringe: { fillMl } }: SyringeMethod,
	reading: SyringeReading | undefined
): Plunger {
	if (!reading) return fillMl;
	return 'left' in reading ? reading.left : complement(reading.used, fillMl);
}

/** What is typed once the plunger was moved to `ml` left. */
export const plungerAt = (
	{ syringe: { fillMl, graduationMl } }: SyringeMethod,
	readAs: SyringeDraft['readAs'],
	ml: number
): Pick<Typed, 'text'> => ({ text: written(readAs === 'left' ? ml : fillMl - ml, graduationMl) });

/** The other convention: typed numbers are read again; a plunger that was moved, and stands at `left`, stays where it is. */
export const readUnder = (
	method: SyringeMethod,
	convention: SyringeDraft['readAs'],
	left: Plunger | undefined
): Partial<Typed> => ({
	readAs: convention,
	...(typeof left === 'number' ? plungerAt(method, convention, left) : {})
});
