import { type Method, type Step } from '../instruments';
import { handsOf, waitOf } from '../methods';
import type { BenchStep } from '../schedule';

/** One large step at the bench: what the plan moves, and the steps of the method it stands for. */
export interface RunStep extends BenchStep {
	act: Step['do'];
	/** What the wait after it is called, where the method says. */
	waitText?: string;
	fast?: number;
	/** The first moment of the colour is the end. */
	passing?: boolean;
	caution?: string;
	/** Seconds counted down while the hands are at it: a shake. */
	countdown?: number;
	/** Here the instrument is read. */
	reads: boolean;
}

/** Steps after which a vial may stand: nothing has begun to react yet. */
const PATIENT: Step['do'][] = ['rinse', 'measure'];
const READS: Step['do'][] = ['read', 'match', 'titrate'];

/**
 * A method as steps of hands and the gaps between them. Rinsed and filled vials may stand; from the first reagent on steps
 * follow at once, but for the waits the method names. `thinned` puts a dilution before the sample is drawn.
 *
 * @example stepsOf(SHIPPED_METHODS[0]).at(-1).reads // → true
 */
export function stepsOf(method: Method, thinned?: { sampleMl: number; waterMl: number }): RunStep[] {
	const listed: Step[] = method.steps?.length ? method.steps : [];
	const reading = listed.findLastIndex((s) => READS.includes(s.do));
	const all: Step[] = [
		...(thinned
			? [
					{
						do: 'dilute' as const,
						text: `Mix ${thinned.sampleMl} mL of the water with ${thinned.waterMl} mL of purified water; test that.`
					}
				]
			: []),
		...listed,
		...(reading < 0 ? [{ do: 'read' as const, text: 'Read the instrument.' }] : [])
	];
	const readsAt = all.findLastIndex((s) => READS.includes(s.do));
	const steps: RunStep[] = [];
	for (const [i, step] of all.entries()) {
		if (i > readsAt) break;
		const before = steps.at(-1);
		if (step.do === 'wait') {
			const waits = { wait: (before?.then?.wait ?? 0) + waitOf(step) };
			const window = { then: step.within === undefined ? waits : { ...waits, within: step.within } };
			if (before) Object.assign(before, window, { waitText: step.text });
			else
				steps.push({ label: step.text, hands: 0, act: 'wait', reads: false, waitText: step.text, ...window });
			continue;
		}
		const wait = waitOf(step);
		steps.push({
			label: step.text,
			hands: handsOf(step),
			act: step.do,
			reads: i === readsAt,
			...(step.do === 'mix' && step.seconds ? { countdown: step.seconds } : {}),
			...(step.fast === undefined ? {} : { fast: step.fast }),
			...(step.passing ? { passing: true } : {}),
			...(step.caution === undefined ? {} : { caution: step.caution }),
			...(step.uses === undefined ? {} : { uses: [step.uses] }),
			...(wait
				? { then: { wait }, waitText: step.text }
				: PATIENT.includes(step.do) || i === readsAt
					? {}
					: { then: { wait: 0, within: 0 } })
		});
	}
	return steps;
}
