import type { Judgement } from '$core/targets';
import * as say from '$messages/judgements';
import { dayInWords } from '../when';
import { judgementInWords, listed } from './judgements';

/** So many tests are named; more are counted. */
const NAMED = 3;

/** What to do this evening, in one sentence; that may be nothing. */
export function tonightInWords(
	due: { parameter: string; at: string; now: boolean }[],
	judgements: Judgement[],
	now: string,
	timeZone: string
): string {
	const harm = judgements.find((j) => j.kind === 'harm');
	if (harm) return judgementInWords(harm, now, timeZone).text;
	const tests = due.filter((d) => d.now).map((d) => d.parameter);
	if (tests.length) {
		// The last of four is named like the others: “and 1 more” is no shorter.
		const named = tests.length - NAMED > 1 ? tests.slice(0, NAMED) : tests;
		const more = tests.length - named.length;
		return say.dueNow({ parameters: more ? named.map((p) => listed([p])).join(', ') : listed(named), more });
	}
	const chart = judgements.find((j) => j.numbers['reason'] === 'chart');
	if (chart) return say.dueChart({ parameter: listed([chart.parameter]) });
	const next = due[0];
	return next
		? say.dueNext({ parameter: listed([next.parameter]), when: dayInWords(next.at, now, timeZone) })
		: say.dueNothing();
}
