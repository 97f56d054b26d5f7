/** Judgements as people say them: one sentence, and what it rests on. Core gives kinds and numbers; the sentences are messages. */
import { COVERAGE_95 } from '$core/statistics';
import { decimalsOf, formatUnit } from '$core/quantities';
import { nameInSentence, titleOf, type Parameter } from '$core/catalogue';
import { AFTER_DEATH, POISONS, type Judgement, type JudgementKind } from '$core/targets';
import * as common from '$messages/common';
import * as say from '$messages/judgements';
import * as rack from '$messages/rack';
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
/** A level with its error, to the first uncertain digit, and its unit: "8.1 ± 0.3 dKH". */
function known(parameter: string, value: number, sd: number): string {
	const error = COVERAGE_95 * Math.abs(changeFor(parameter, sd, value));
	const decimals = decimalsOf(error);
	return withUnit(
		parameter,
		// A line does not end at the sign.
		`${numeral(valueFor(parameter, value), decimals)}\u00a0±\u00a0${numeral(error, decimals)}`
	);
}
const percent = (share: number): string => `${Math.round(100 * Math.min(0.99, share))} %`;
/** A chance as a count out of ten; its ends are one in twenty. */
export function chanceInWords(p: number): string {
	if (p < 0.05) return common.chanceSmall();
	if (p > 0.95) return common.chanceLarge();
	return common.chanceAbout({ n: String(Math.max(1, Math.min(9, Math.round(10 * p)))) });
}
const daysIn = (days: number): number => Math.max(1, Math.round(days));

export const LIST = new Intl.ListFormat('en-GB', { type: 'conjunction' });
/** "salinity, magnesium and calcium"; a sentence begins with `first: titleOf`. */
export const listed = (parameters: string[], { first = nameInSentence } = {}): string =>
	LIST.format(parameters.map((p, i) => (i ? nameInSentence(p) : first(p))));

/** What a death asks for, where it is written down. */
export const afterDeathInWords = (): string =>
	say.afterDeath({ parameters: listed([...AFTER_DEATH.parameters]) });

/** How a move of the water is called, of numbers in this person's unit: "fell from 8.4 to 6.2". */
export const moveInWords = (parameter: string, from: number, to: number): string =>
	(to < from ? rack.fell : rack.rose)({
		from: plain(from, figuresOf(parameter)),
		to: plain(to, figuresOf(parameter))
	});

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
	const { text, why } = saidOfMany(j) ?? SAID[j.kind](numbersOf(j, now, timeZone));
	return { tone, text, why: why.filter(Boolean).join(' ') };
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

interface Said {
	text: string;
	/** Whole sentences; empty ones are left out. */
	why: string[];
}

/** Several parameters of one kind, in a sentence of their own. */
function saidOfMany(j: Judgement): Said | undefined {
	if (!j.also?.length || (j.kind !== 'edge' && j.kind !== 'unknown')) return undefined;
	const parameters = listed([j.parameter, ...j.also]);
	if (j.kind === 'edge') return { text: say.nearMany({ parameters }), why: [say.testThem()] };
	if (j.numbers['reason'] === 'chart')
		return { text: say.exampleCharts({ parameters }), why: [say.exampleChartsWhy()] };
	return j.numbers['reason'] === 'age'
		? { text: say.oldMany({ parameters }), why: [say.testThem()] }
		: { text: say.uncertainMany({ parameters }), why: [say.uncertainManyWhy()] };
}

/** A judgement's numbers as this person counts and writes them. */
function numbersOf(j: Judgement, now: string, timeZone: string) {
	const n = (name: string): number => Number(j.numbers[name] ?? NaN);
	const has = (name: string): boolean => j.numbers[name] !== undefined;
	const valued = (name: string) => withUnit(j.parameter, written(j.parameter, n(name)));
	/** A change by so much, where the level is about that of another number. */
	const change = (name: string, at: string, figures = 3) =>
		withUnit(j.parameter, plain(Math.abs(changeFor(j.parameter, n(name), n(at))), figures));
	const at = has('to') ? 'to' : 'value';
	return {
		n,
		has,
		says: (name: string): string => String(j.numbers[name] ?? ''),
		also: j.also ?? [],
		parameter: j.parameter,
		Parameter: titleOf(j.parameter),
		isHigh: j.numbers['edge'] === 'upper',
		level: (name: string) => written(j.parameter, n(name)),
		valued,
		/** The level, with its error where that is known. */
		value: has('sd') ? known(j.parameter, n('value'), n('sd')) : valued('value'),
		change,
		chance: (name: string) => chanceInWords(n(name)),
		when: () => dayInWords(j.numbers['at'] as string, now, timeZone),
		ago: () => daysAgo(j.numbers['at'] as string, now, timeZone),
		pace: has('healthyPerDay') ? say.dailyLimit({ change: change('healthyPerDay', at) }) : '',
		onOneTest: j.helps === 'test' ? say.onOneTest() : ''
	};
}
type Numbers = ReturnType<typeof numbersOf>;

const SAID: Record<JudgementKind, (its: Numbers) => Said> = {
	harm: harmSaid,
	out({ Parameter, value, isHigh, chance, n, onOneTest, has, pace }) {
		return {
			text: (isHigh ? say.outAbove : say.outBelow)({ Parameter, value }),
			why: [
				say.outChance({ chance: chance('sure'), tests: n('tests') }),
				onOneTest,
				has('cause') ? say.carbonDioxide() : pace
			]
		};
	},
	moved({ Parameter, n, level, valued, ago, chance, says }) {
		const rises = n('to') > n('from');
		const explained = {
			level: say.movedLevel,
			drift: say.movedDrift,
			dosing: rises ? say.movedTwice : say.movedDosing
		}[says('explanation')];
		return {
			text: (rises ? say.movedUp : say.movedDown)({
				Parameter,
				from: level('from'),
				to: valued('to'),
				ago: ago()
			}),
			why: [say.movedChance({ chance: chance('probability') }), explained?.() ?? '']
		};
	},
	odd({ Parameter, valued, chance }) {
		return {
			text: say.odd({ Parameter, value: valued('value'), level: valued('level') }),
			why: [say.oddWhy({ chance: chance('probability') })]
		};
	},
	'salinity-first': (its) => saltSaid(its, say.salinityLow),
	'salinity-thick': (its) => saltSaid(its, say.salinityHigh),
	order: ({ also }) => ({
		text: say.order({ parameters: also.map((p) => nameInSentence(p)).join(', ') }),
		why: [say.orderWhy()]
	}),
	swing({ Parameter, level, valued, n, change }) {
		return {
			text: say.swing({
				Parameter,
				from: level('from'),
				to: valued('to'),
				days: n('days') < 1.5 ? 1 : 2,
				change: change('healthyPerDay', 'to')
			}),
			why: [say.swingWhy()]
		};
	},
	unknown({ Parameter, says, has, n, valued, value, chance }) {
		if (says('reason') === 'chart')
			return { text: say.exampleChart({ Parameter }), why: [say.exampleChartWhy()] };
		if (says('reason') === 'age')
			return {
				text: has('days') ? say.old({ Parameter, days: daysIn(n('days')) }) : say.untested({ Parameter }),
				why: [has('value') ? say.oldWhy({ value: valued('value') }) : say.testIt()]
			};
		return {
			text: say.uncertain({ Parameter, value, chance: chance('inside') }),
			why: [say.uncertainWhy()]
		};
	},
	edge({ Parameter, isHigh, value, chance }) {
		return {
			text: (isHigh ? say.nearUpper : say.nearLower)({ Parameter, value }),
			why: [say.inRangeChance({ chance: chance('inside') }), say.testIt()]
		};
	},
	'leaves-soon'({ Parameter, n, change, when }) {
		return {
			text: (n('perDay') < 0 ? say.falling : say.rising)({
				Parameter,
				change: change('perDay', 'value', 2),
				when: when()
			}),
			why: [say.leavesWhy()]
		};
	},
	ratio({ n }) {
		// Units of both are proportional: at which level a change is converted does not matter.
		const calcium = (x: number) => withUnit('calcium', plain(changeFor('calcium', x, 420), 2));
		return {
			text: say.ratio({
				calcium: calcium(n('calcium')),
				alkalinity: withUnit('alkalinity', plain(changeFor('alkalinity', n('alkalinity'), 8), 2)),
				expected: calcium(n('expected'))
			}),
			why: [say.ratioWhy()]
		};
	},
	'long-zero': ({ Parameter, n }) => ({
		text: say.longZero({ Parameter, days: daysIn(n('days')) }),
		why: [say.longZeroWhy({ tests: n('tests') })]
	}),
	'cycle-over': ({ has, n }) => ({
		text: has('change') ? say.cycleOverChange({ share: percent(n('change')) }) : say.cycleOver(),
		why: [say.cycleOverWhy({ tests: n('tests'), days: daysIn(n('days')) })]
	}),
	'cycle-waits': cycleSaid
};

/** What leaves by water changes and by nothing that is poured: half a change of new water that holds none. */
const washed = (parameter: string, value: number): string =>
	say.harmWash({ level: withUnit(parameter, written(parameter, value / 2)) });

function harmSaid({
	parameter,
	Parameter,
	n,
	has,
	value,
	valued,
	isHigh,
	chance,
	onOneTest,
	pace
}: Numbers): Said {
	const free = has('nh3')
		? say.harmFree({
				level: `${plain(n('nh3'), 2)} mg/L`,
				ph: plain(n('ph')),
				temperature: withUnit('temperature', written('temperature', n('temperature'))),
				limit: `${plain(n('alarm'), 2)} mg/L`
			})
		: '';
	if (has('oddly'))
		return {
			text: say.harmOddly({ Parameter, value: valued('value') }),
			why: [say.harmOddlyWhy(), free]
		};
	const limit = free || say.harmLimit({ limit: valued('alarm') });
	const sure = has('sure') ? say.harmChance({ chance: chance('sure'), tests: n('tests') }) : '';
	const wash = has('upTo') || free || POISONS.includes(parameter) ? washed(parameter, n('value')) : '';
	const text = has('upTo')
		? say.harmMaybe({ Parameter, value: valued('value'), most: valued('upTo') })
		: (isHigh ? say.harmAbove : say.harmBelow)({ Parameter, value });
	return {
		text: [text, wash].filter(Boolean).join(' '),
		// A change of water harms nobody: it does not wait for the second test.
		why: [sure, wash && onOneTest ? say.harmAfterWash() : onOneTest, limit, pace]
	};
}

function saltSaid({ also, valued, n }: Numbers, text: typeof say.salinityLow): Said {
	const levels = LIST.format(also.map((p) => `${nameInSentence(p)} ${withUnit(p, written(p, n(p)))}`));
	return {
		text: text({ parameters: listed(also) }),
		why: [say.salinityWhy({ level: valued('wanted'), levels })]
	};
}

function cycleSaid({ says, n, has }: Numbers): Said {
	const coarse = says('coarse');
	const waits: Record<string, () => string> = {
		'not begun': say.cycleNotBegun,
		age: say.cycleOld,
		nitrite: say.cycleNitrite
	};
	const text =
		waits[says('reason')]?.() ??
		(has('coarse')
			? say.cycleCoarse({
					parameter: nameInSentence(coarse),
					level: withUnit(coarse, written(coarse, n('below')))
				})
			: n('tests') === 0
				? say.cycleUnderWay()
				: say.cycleNearly({ tests: n('tests') }));
	return { text, why: [say.cycleWhen({ tests: n('wantedTests'), days: n('wantedDays') })] };
}

/** What a parameter's neighbours add to its own tests: "20 % surer …". */
export const learntInWords = ({ share, from }: { share: number; from: string[] }): string =>
	say.learnt({ share: percent(share), parameters: listed(from) });

/** How far a test must be from what was expected for it to be said: as the misreadings of `trend` are, in standard deviations. */
const FAR = 3.5;

/** Of a level that no tank has, whatever was measured before; both in this person's unit. */
export function nowhereInWords(
	{ plausible: [low, high], unit }: Parameter,
	test: { value: number; standardUncertainty: number }
): string {
	const value = numeral(test.value, decimalsOf(COVERAGE_95 * test.standardUncertainty));
	return say.implausible({
		low: plain(low, 5),
		high: [plain(high, 5), formatUnit(unit)].join(' ').trim(),
		value
	});
}

/** Where a test is far from what the water was expected to have. */
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
	const value = numeral(test.value, decimals);
	return last?.value == null
		? say.far({ level: numeral(level.value, decimals), value })
		: say.farSince({
				level: numeral(last.value, decimals),
				ago: daysAgo(last.takenAt, now, timeZone),
				value
			});
}
