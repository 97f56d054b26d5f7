import type { Judgement } from '$core/targets';
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
		const more = tests.length - NAMED;
		return more > 1
			? `Test ${tests
					.slice(0, NAMED)
					.map((p) => listed([p]))
					.join(', ')} and ${more} others.`
			: `Test ${listed(tests)}.`;
	}
	const chart = judgements.find((j) => j.numbers['reason'] === 'chart');
	if (chart) return `Type the leaflet of your ${listed([chart.parameter])} kit: then its numbers count.`;
	const next = due[0];
	return next
		? `Nothing to do tonight. Next is ${listed([next.parameter])}, ${dayInWords(next.at, now, timeZone)}.`
		: 'Nothing to do tonight.';
}
