import type { Step } from '../instruments';

/** How long a step without a stated time keeps the hands busy, s: what a practised keeper takes, by its kind. */
const USUAL: Record<Step['do'], number> = {
	rinse: 20,
	measure: 20,
	dilute: 25,
	add: 15,
	mix: 10,
	wait: 0,
	titrate: 90,
	match: 20,
	filter: 30,
	read: 10
};

/**
 * Seconds of hands a step takes; the stated time of a wait or a filter runs by itself and is no part of it.
 *
 * @example handsOf({ do: 'mix', text: 'Shake', seconds: 30 }) // → 30
 */
export const handsOf = (step: Step): number =>
	step.do === 'wait' || step.do === 'filter' ? USUAL[step.do] : (step.seconds ?? USUAL[step.do]);

/**
 * Seconds a step runs by itself.
 *
 * @example waitOf({ do: 'wait', text: 'Stand', seconds: 300 }) // → 300
 */
export const waitOf = (step: Step): number =>
	step.do === 'wait' || step.do === 'filter' ? (step.seconds ?? 0) : 0;
