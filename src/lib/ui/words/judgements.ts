/** Judgements as people say them: one sentence, and what it rests on. Core gives kinds and numbers. */
import { plural } from './plural';
import { COVERAGE_95 } from '$core/statistics';
import { decimalsOf, formatUnit } from '$core/quantities';
import { nameInSentence, titleOf, type Parameter } from '$core/catalogue';
import { AFTER_DEATH, POISONS, type Judgement } from '$core/targets';
import { numeral, unitFor } from '../habits';
import { changeFor, valueFor } from '../mine';
import { dayInWords, daysAgo } from '../when';

interface InWords {
	tone: 'brick' | 'saffron' | 'moss';
	text: string;
	/** What it is concluded from. */
	why: string;
}

/** To three figures: judgements are no place for digits. */
function plain(x: number, figures = 3): string {
	const most = Math.max(0, Math.min(4, figures - 1 - Math.floor(Math.log10(Math.max(Math.abs(x), 1e-4)))));
	const short = Number(x.toFixed(most));
	return numeral(short, (String(short).split('.')[1] ?? '').length);
}
/** Specific gravity says all it says in its last digits. */
const figuresOf = (parameter: string): number => (unitFor(parameter).startsWith('SG') ? 5 : 3);
/** A level as this person counts it, from the parameter's own unit. */
const written = (parameter: string, value: number): string =>
	plain(valueFor(parameter, value), figuresOf(parameter));
const withUnit = (parameter: string, text: string): string =>
	[text, formatUnit(unitFor(parameter))].filter(Boolean).join(' ');
const percent = (share: number): string => `${Math.round(100 * Math.min(0.99, share))} %`;
const daysOf = (days: number): string => (days < 1.5 ? 'a day' : `${Math.round(days)} days`);

/** "salinity, magnesium and calcium"; a sentence begins with `first: titleOf`. */
export function listed(parameters: string[], { first = nameInSentence } = {}): string {
	const names = parameters.map((p, i) => (i ? nameInSentence(p) : first(p)));
	return names.length > 1 ? `${names.slice(0, -1).join(', ')} and ${names.at(-1)}` : (names[0] ?? '');
}

/** What a death asks for, where it is written down. */
export const AFTER_DEATH_SAID = `Test ${listed([...AFTER_DEATH.parameters])} now, and take out what died.`;

/** How a move of the water is called, of numbers in this person's unit: "fell from 8.4 to 6.2". */
export const moveInWords = (parameter: string, from: number, to: number): string =>
	`${to < from ? 'fell' : 'rose'} from ${plain(from, figuresOf(parameter))} to ${plain(to, figuresOf(parameter))}`;

const EXPLAINED: Record<string, string> = {
	level: 'It jumped at once: look for what was poured, changed or left running.',
	drift: 'It runs another way than before: something uses more or less of it, or is dosed otherwise.',
	dosing:
		'It falls as if what is written of the dosing does not arrive: look at the dosing pump and its bottle.',
	twice: 'It rises as if more is dosed than is written: look at the dosing pump, its rate and its bottle.'
};

const STEADY = {
	harm: 'brick',
	out: 'brick',
	swing: 'brick',
	moved: 'brick',
	'cycle-over': 'moss',
	'cycle-waits': 'moss'
} as const;

export function judgementInWords(j: Judgement, now: string, timeZone: string): InWords {
	const tone = STEADY[j.kind as keyof typeof STEADY] ?? 'saffron';
	return { tone, ...(saidOfMany(j) ?? said(j, now, timeZone)) };
}

/** What several parameters have in common is said once: not known well enough, near a limit, tested too long ago. */
export function together(judgements: Judgement[]): Judgement[] {
	const firsts = new Map<string, Judgement>();
	return judgements.flatMap((j) => {
		if (j.kind !== 'edge' && j.kind !== 'unknown') return [j];
		const like = `${j.kind} ${j.numbers['reason'] ?? ''}`;
		const first = firsts.get(like);
		if (first) {
			first.also = [...(first.also ?? []), j.parameter];
			return [];
		}
		const copy = { ...j };
		firsts.set(like, copy);
		return [copy];
	});
}

/** Several parameters of one kind, in a sentence of their own. */
function saidOfMany(j: Judgement): { text: string; why: string } | undefined {
	if (!j.also?.length || (j.kind !== 'edge' && j.kind !== 'unknown')) return undefined;
	const all = listed([j.parameter, ...j.also], { first: titleOf });
	if (j.kind === 'edge')
		return { text: `${all} are near a limit of their bands.`, why: 'A test of each would tell.' };
	if (j.numbers['reason'] === 'chart')
		return {
			text: `${all} were read by charts that are not yours yet.`,
			why: 'The numbers count once each kit has the chart of your leaflet.'
		};
	if (j.numbers['reason'] === 'age')
		return {
			text: `${all} were tested too long ago: what they are now is not known.`,
			why: 'A test of each would tell.'
		};
	return {
		text: `${all} are not known well enough to say whether they are in band.`,
		why: 'The errors are wide against the bands. Another test of each narrows them.'
	};
}

/** What leaves by water changes and by nothing that is poured. */
const isPoison = (parameter: string): boolean => POISONS.includes(parameter);
/** What a change brings, of new water that holds none. */
const washedOut = (parameter: string, value: number): string =>
	`Change half of the water now, with water as warm and as salty: that leaves ${withUnit(parameter, written(parameter, value / 2))}.`;

function said(j: Judgement, now: string, timeZone: string): { text: string; why: string } {
	const title = titleOf(j.parameter);
	const n = (name: string): number => Number(j.numbers[name] ?? NaN);
	const has = (name: string): boolean => j.numbers[name] !== undefined;
	const level = (name: string) => written(j.parameter, n(name));
	const valued = (name: string) => withUnit(j.parameter, level(name));
	/** A change by so much, where the level is about that of another number. */
	const change = (name: string, at: string, figures = 3) =>
		plain(Math.abs(changeFor(j.parameter, n(name), n(at))), figures);
	const pace = has('healthyPerDay')
		? ` Move it by no more than ${change('healthyPerDay', 'value')} a day.`
		: '';
	const sure = has('sure') ? `${percent(n('sure'))} sure. ` : '';
	const again = j.helps === 'test' ? ' It rests on one: test again first.' : '';
	switch (j.kind) {
		case 'harm': {
			const free = has('nh3')
				? ` ${plain(n('nh3'), 2)} mg/L of it is free ammonia at pH ${plain(n('ph'))} and ${withUnit('temperature', written('temperature', n('temperature')))}; ${plain(n('alarm'), 2)} harms.`
				: '';
			const far = j.numbers['edge'] === 'upper' ? 'dangerously high' : 'dangerously low';
			const wash =
				has('upTo') || free || isPoison(j.parameter) ? ` ${washedOut(j.parameter, n('value'))}` : '';
			if (has('upTo'))
				return {
					text: `${title} may be above what animals bear: ${valued('value')}, and up to ${valued('upTo')}.${wash}`,
					why: `${sure}From ${plural(n('tests'), 'test')}. Test it again tonight, after the change.${free || ` The alarm is at ${level('alarm')}.`}`
				};
			if (has('oddly'))
				return {
					text: `${title} read ${valued('value')}: ${far}. Test it again at once.`,
					why: `It does not fit the tests before, so it may be a slip; do not wait to find out.${free}`
				};
			// Only free ammonia's limit is one that was measured on animals; the others are alarms that keepers agree on.
			return {
				text: free
					? `${title} is above what animals bear: ${valued('value')}.${wash}`
					: `${title} is ${far}: ${valued('value')}.${wash}`,
				why: `${sure}From ${plural(n('tests'), 'test')}.${again}${free || ` The alarm is at ${level('alarm')}.`}${pace}`
			};
		}
		case 'out':
			return {
				text: `${title} is ${j.numbers['edge'] === 'upper' ? 'above' : 'below'} its band: ${valued('value')}.`,
				why: `${percent(n('sure'))} sure, from ${plural(n('tests'), 'test')}.${again}${j.numbers['cause'] ? ' Alkalinity is fine, so it is carbon dioxide: let in fresh air.' : pace}`
			};
		case 'moved': {
			const { explanation: given } = j.numbers;
			const explanation = given === 'dosing' && n('to') > n('from') ? 'twice' : String(given);
			return {
				text: `${title} ${moveInWords(j.parameter, valueFor(j.parameter, n('from')), valueFor(j.parameter, n('to')))}, ${daysAgo(String(j.numbers['at']), now, timeZone)}.`,
				why: `${percent(n('probability'))} sure: the tests agree that the water moved. ${EXPLAINED[explanation] ?? ''}`
			};
		}
		case 'odd':
			return {
				text: `${title} read ${valued('value')} and was ${level('level')}. Test it again before acting.`,
				why: `A slip with ${percent(n('probability'))}; otherwise the water moved. One more test tells.`
			};
		case 'salinity-first':
		case 'salinity-thick': {
			const ions = j.also ?? [];
			const thin = j.kind === 'salinity-first';
			const levels = ions.map((p) => `${nameInSentence(p)} would be ${written(p, n(p))}`).join(', ');
			const [be, first] = [ions.length > 1 ? 'are' : 'is', ions.length > 1 ? 'they are' : 'it is'];
			return {
				text: `Correct salinity first: ${listed(ions)} ${be} ${thin ? 'low because the water is thin' : 'high because the water is salty'}.`,
				why: `At ${valued('wanted')} ${levels}; now it is ${level('value')}. Ions go with the salt, so nothing else helps while ${first} moved by it.`
			};
		}
		case 'order':
			return {
				text: `Bring them home in this order: ${(j.also ?? []).map((p) => nameInSentence(p)).join(', ')}.`,
				why: 'Each moves those behind it; one at a time, slowly, with a test between.'
			};
		case 'swing':
			return {
				text: `${title} moved from ${level('from')} to ${level('to')} within ${n('days') < 1.5 ? 'a day' : 'two days'}; ${change('healthyPerDay', 'to')} a day is healthy.`,
				why: 'More than both tests’ errors. Swings harm more than levels: repeat the test, then look for what was dosed.'
			};
		case 'unknown':
			if (j.numbers['reason'] === 'chart')
				return {
					text: `${title} was read by a chart that is not yours yet.`,
					why: 'The number counts once the kit has the chart of your leaflet.'
				};
			if (j.numbers['reason'] === 'age')
				return {
					text: has('days')
						? `${title} was last tested ${daysOf(n('days'))} ago: what it is now is not known.`
						: `${title} was never tested.`,
					why: has('value') ? `Then it was ${valued('value')}.` : 'A test would tell.'
				};
			return {
				text: `${title} is not known well enough: in its band with ${percent(n('inside'))}.`,
				why: 'The error is wide against the band. Another test narrows it.'
			};
		case 'edge':
			return {
				text: `${title} is near the ${j.numbers['edge'] === 'upper' ? 'upper' : 'lower'} limit of its band.`,
				why: `In it with ${percent(n('inside'))}. A test would tell.`
			};
		case 'leaves-soon':
			return {
				text: `${title} ${n('perDay') < 0 ? 'falls' : 'rises'} ${change('perDay', 'value', 2)} a day and leaves its band ${dayInWords(String(j.numbers['at']), now, timeZone)}.`,
				why: 'As likely as not by then, if nothing is changed.'
			};
		case 'ratio':
			return {
				text: `Calcium and alkalinity are not used in step: ${plain(n('calcium'), 2)} mg/L a day beside ${withUnit('alkalinity', plain(changeFor('alkalinity', n('alkalinity'), 8), 2))}, where ${plain(n('expected'), 2)} mg/L is expected.`,
				why: 'A ratio far off points to a bad test or a wrong dosing entry before it points to chemistry.'
			};
		case 'long-zero':
			return {
				text: `${title} has been at nothing for ${daysOf(n('days'))}.`,
				why: `${plural(n('tests'), 'test')} in a row saw none; a long zero invites pests and pales corals.`
			};
		case 'cycle-over': {
			return {
				text: has('change')
					? `The cycle is over. A water change of ${percent(n('change'))} brings nitrate home, then fish.`
					: 'The cycle is over: fish may come, a few at a time.',
				why: `Ammonia and nitrite stayed below detection in ${plural(n('tests'), 'test')} over ${daysOf(n('days'))}.`
			};
		}
		case 'cycle-waits':
			return {
				text:
					j.numbers['reason'] === 'not begun'
						? 'The cycle has not begun: no ammonia was seen yet.'
						: j.numbers['reason'] === 'age'
							? 'The cycle may be over, but its last tests are too old.'
							: j.numbers['reason'] === 'nitrite'
								? 'Ammonia is gone; nitrite was not tested.'
								: has('coarse')
									? `Your ${listed([String(j.numbers['coarse'])])} kit says no more than “below ${written(String(j.numbers['coarse']), n('below'))}”: too coarse to tell that the cycle is over. A finer one can.`
									: n('tests') === 0
										? 'The cycle goes on.'
										: `The cycle is nearly over: ${plural(n('tests'), 'test')} saw nothing.`,
				why: `It is over when ${n('wantedTests')} tests in a row, over ${n('wantedDays')} days or more, see neither ammonia nor nitrite.`
			};
	}
}

/** "a fifth surer, from what alkalinity and calcium do": what a parameter's neighbours add to its own tests. */
export const learntInWords = ({ share, from }: { share: number; from: string[] }): string =>
	`${percent(share)} surer than by its own tests, from what ${listed(from)} ${from.length > 1 ? 'do' : 'does'}`;

/** How far a test must be from what was expected for it to be said: as the misreadings of `trend` are, in standard deviations. */
const FAR = 3.5;

/** Of a level that no tank has, whatever was measured before; both in this person's unit. */
export function nowhereInWords(
	{ plausible: [low, high], unit }: Parameter,
	test: { value: number; standardUncertainty: number }
): string {
	const decimals = decimalsOf(COVERAGE_95 * test.standardUncertainty);
	return `Tanks have ${plain(low, 5)} to ${plain(high, 5)} ${formatUnit(unit)}; this is ${numeral(test.value, decimals)}. Look once more at the instrument, its unit and its chart.`;
}

/** "It was 8.4 a week ago; this is 6.2: test again now", where a test is far from what the water was expected to have. */
export function farInWords(
	test: { value: number; standardUncertainty: number },
	level: { value: number; standardDeviation: number } | undefined,
	last: { value: number | null; takenAt: string } | undefined,
	now: string,
	timeZone: string
): string | undefined {
	if (!level) return undefined;
	const spread = Math.hypot(level.standardDeviation, test.standardUncertainty);
	if (!(Math.abs(test.value - level.value) > FAR * spread)) return undefined;
	const decimals = decimalsOf(COVERAGE_95 * test.standardUncertainty);
	const before = numeral(last?.value ?? level.value, decimals);
	const when = last?.value != null ? daysAgo(last.takenAt, now, timeZone) : 'before';
	return `It was ${before} ${when}; this is ${numeral(test.value, decimals)}. Test again now: two that agree are no slip.`;
}
