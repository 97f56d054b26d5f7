import { COVERAGE_95 } from '$core/statistics';
import type { Spread } from '$core/practice';
import { formatUnit } from '$core/quantities';
import { figures } from '$lib/ui/habits';
import type { Verdict } from '$lib/ui/practice/lesson-session';

type By = Verdict['causes'][number]['by'];

const BECAUSE: Record<By, string> = {
	reading: 'reading the plunger',
	filling: 'the syringe was not filled to its line by the plunger’s edge',
	hanging: 'a drop that hung at the tip counted and never fell',
	'drop-size': 'drops of another size: the bottle was not upright, or one broke',
	counting: 'drops counted that did not fall, or not counted',
	overshoot: 'titrant that fell after the end',
	undershoot: 'it was stopped before the end',
	sample: 'the sample was not what the kit asks',
	precipitate: 'what had not fallen out, or the part that was not exact',
	early: 'read too early: the colour was still growing',
	late: 'read too late: the reagents had gone on',
	shade: 'the shade you chose',
	'taken-away': 'the calcium that was taken away'
};
export const because = (by: By): string => BECAUSE[by];

const MISREADINGS = {
	'left-for-used': 'That is what was left for what was used, or the other way round.',
	'liquid-edge': 'That is the liquid’s edge. The number is at the plunger’s.',
	refill: 'A filling was forgotten.'
} as const;
export const misreadingInWords = (slip: Verdict['slip']): string | undefined => slip && MISREADINGS[slip];

/** A difference is nothing below a tenth of a drop, a line or a patch. */
const NOTHING = 0.1;
export const isNothing = (value: number, step: number): boolean => Math.abs(value) < NOTHING * step;

/** How near it was, in a sentence, with what a drop or a line is worth. */
export function nearInWords({ said, truth, step, stepIs, between }: Verdict): string {
	const off = said - truth;
	const steps = Math.abs(off) / step;
	if (between) return 'The truth lies between what you said: nothing more can be read.';
	if (steps < NOTHING) return 'Exactly right.';
	if (steps <= 1) return `Within one ${stepIs}. Nobody does better with this kit.`;
	const many = { drop: 'drops', line: 'lines', patch: 'patches' }[stepIs];
	return `${figures(steps, 2)} ${many} too ${off > 0 ? 'high' : 'low'}.`;
}

/** "+12 mg/L". */
export const signed = (value: number, unit: string): string =>
	`${value > 0 ? '+' : '−'}${figures(Math.abs(value), 2)} ${formatUnit(unit)}`;

/** How far past the end a hand goes, with what that is known to. */
export function endInWords({ bias, standardUncertainty, tries }: Spread, worth: string): string {
	const half = COVERAGE_95 * standardUncertainty;
	const where = bias >= 0 ? 'past the end' : 'before the end';
	return `${figures(Math.abs(bias), 2)} ± ${figures(half, 1)} drops ${where}${worth ? ` (${worth})` : ''}, by ${tries} tries`;
}
export const scatterInWords = ({ scatter, interval }: Spread, what: string): string =>
	`one try scatters by ${figures(scatter, 2)} ${what} (${figures(interval[0], 2)} to ${figures(interval[1], 2)})`;
