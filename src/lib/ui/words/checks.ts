/** What is known of kits, as people say it. Core gives kinds and numbers. */
import { COVERAGE_95 } from '$core/statistics';
import type { Proved } from '$core/methods';
import { formatUnit } from '$core/quantities';
import { parameterOf } from '$core/catalogue';
import type { CompareResult, ReadsBy, ReferenceResult, Rule } from '$core/quality';
import type { Check, KitChecks } from '$lib/api/kit-checks';
import { figures, unitFor } from '../habits';
import type { Repeated } from '../bench/results';
import { changeFor } from '../mine';
import { inWords, shownLevel } from '../wording';
import { plural } from './plural';

const percent = (chance: number): string =>
	chance < 0.01
		? 'less than once in a hundred'
		: `${Math.max(1, Math.round(100 * chance))} times in a hundred`;

/** How this person says differences of a parameter near a level. */
function saying(parameter: string, at: number) {
	const mine = (x: number) => changeFor(parameter, x, at);
	const unit = formatUnit(unitFor(parameter));
	const error = (u: number) => `± ${figures(Math.abs(mine(COVERAGE_95 * u)), 2)}`;
	/** To the first uncertain digit. */
	const cut = (x: number, u: number) => {
		const its = shownLevel(Math.abs(mine(x)), Math.abs(mine(COVERAGE_95 * u)));
		return `${its.value} ${its.error}`;
	};
	return {
		size: (x: number) => figures(Math.abs(mine(x)), 2),
		error,
		/** "0.6 ± 0.1 dKH" */
		both: (x: number, u: number) => `${cut(x, u)} ${unit}`.trim(),
		signed: (x: number, u: number) => `${mine(x) < 0 ? '−' : '+'}${cut(x, u)} ${unit}`.trim(),
		unit
	};
}

/** What a check against a reference says, and what is known of the kit now. */
export function checkInWords(
	parameter: string,
	check: Check,
	taken?: KitChecks['kits'][number]['taken']
): string {
	const { result, source, tests } = check;
	const { bias, known, trueness, verdict, testsToTell } = result;
	if (!bias || !known || !trueness) return '';
	const say = saying(parameter, known.value);
	const by = `in ${plural(tests, 'test')} of ${source}`;
	// What a kit is taken to be off by lies between what was seen and what its maker allows it (a normal prior).
	const believed = say.size(trueness.bias);
	const own =
		believed === say.size(bias.value)
			? ''
			: ` ${believed} ${say.unit} of that is taken for the kit’s own, the rest for chance.`;
	if (verdict === 'reads-high' || verdict === 'reads-low')
		return `Reads ${say.both(bias.value, bias.standardUncertainty)} too ${verdict === 'reads-high' ? 'high' : 'low'} ${by}, more than noise explains.${own} ${
			taken
				? `${say.size(taken.takenOff)} ${say.unit} ${taken.takenOff < 0 ? 'are added to' : 'are taken off'} what it reads, by your word.`
				: 'Nothing is taken off by itself, and levels are less sure for it.'
		}`;
	const nowKnown = `Its own error is ${say.error(trueness.after)} ${say.unit} now, where ${say.error(trueness.before)} was allowed for; levels and plans go by that.`;
	if (verdict === 'agrees')
		return `Agrees ${by}: off by ${say.signed(bias.value, bias.standardUncertainty)}. ${nowKnown}`;
	return `Not told yet ${by}: off by ${say.signed(bias.value, bias.standardUncertainty)}. ${moreInWords(testsToTell, tests)}`;
}
function moreInWords(testsToTell: number | null | undefined, tests: number): string {
	if (testsToTell === null || testsToTell === undefined)
		return 'This reference is not known well enough to tell, however often it is tested.';
	return testsToTell > tests
		? `${plural(testsToTell - tests, 'more test')} would tell.`
		: 'It lies on the edge of what the kit may be off by: test it once more.';
}

/** "0.31 dKH off" as a wish, "0.31 dKH taken off what it reads" as it stands; a kit that reads too little gets it added. */
export function takenInWords(parameter: string, { takenOff }: { takenOff: number }, wish = false): string {
	const [low, high] = parameterOf(parameter)?.plausible ?? [0, 0];
	const say = saying(parameter, (low + high) / 2);
	const size = `${say.size(takenOff)} ${say.unit}`;
	if (wish) return takenOff < 0 ? `Add ${size} to` : `Take ${size} off`;
	return takenOff < 0 ? `${size} added to what it reads` : `${size} taken off what it reads`;
}

/** What a reading says of what is known of its kit, short: "0.3 dKH taken off, checked with Bottle of the school". */
export function provedInWords(parameter: string, { takenOff, by, scatter }: Proved): string {
	const [low, high] = parameterOf(parameter)?.plausible ?? [0, 0];
	const say = saying(parameter, (low + high) / 2);
	const off =
		takenOff === undefined
			? 'kit'
			: `${say.size(takenOff)} ${say.unit} ${takenOff < 0 ? 'added' : 'taken off'},`;
	return [
		by === undefined ? '' : `${off} checked with ${by}`,
		scatter ? `scatter by ${plural(scatter.pairs, 'pair')} of yours` : ''
	]
		.filter(Boolean)
		.join('; ');
}

/** What a chart of checks shows beside: creep, and a rule that the last point completes. */
export function chartInWords(
	parameter: string,
	{ ageing, ewma, control, known, verdict }: ReferenceResult
): string[] {
	const say = saying(parameter, known?.value ?? 0);
	// Of a kit that is known to be off, a chart about what the water holds says the same again.
	const off = verdict === 'reads-high' || verdict === 'reads-low';
	const rule = off ? undefined : control?.points.at(-1)?.rule;
	return [
		...(ageing
			? [
					`It ages: from its first check to its last it went by ${say.signed(ageing.value, ageing.standardUncertainty)}. Open a new pack, and check that.`
				]
			: []),
		...(rule ? [RULES[rule]] : []),
		...(ewma?.out && !ageing && !off ? ['Its checks creep away from what the reference holds.'] : [])
	];
}
const RULES: Record<Rule, string> = {
	'one-beyond-3': 'The last check lies outside the action lines: repeat it before it is believed.',
	'two-of-three-beyond-2': 'Two of the last three checks lie beyond a warning line.',
	'four-of-five-beyond-1': 'Four of the last five checks lie off on one side.',
	'eight-on-one-side': 'The last eight checks all lie on one side.'
};

/** Two kits on the same water, in one sentence, and what to do about it. */
export function differenceInWords(
	parameter: string,
	at: number,
	[a, b]: [string, string],
	result: CompareResult,
	pairs: number
): string {
	const { difference, chance, verdict, pairsToTell, next } = result;
	const say = saying(parameter, at);
	const size = say.both(difference.value, difference.standardUncertainty);
	const reads = `${a} reads ${size} ${difference.value < 0 ? 'less' : 'more'} than ${b} in ${plural(pairs, 'pair')}`;
	if (verdict === 'no-difference')
		return `${reads}: scatter alone does that ${percent(chance.scatter)}. No difference is shown${
			next === 'repeat' && pairsToTell
				? `; ${plural(pairsToTell, 'pair')} in all would show one of this size`
				: ''
		}.`;
	const kits =
		verdict === 'kits-differ'
			? 'more than scatter does, and no more than two such kits may be off by'
			: 'more than both kits may be off by: at least one is wrong';
	return `${reads}, ${kits}.`;
}

/** Which of two kits that differ is right, as far as their checks say. */
export function tellsInWords(kits: Pick<KitChecks['kits'][number], 'name' | 'check'>[]): string {
	const told = (verdicts: string[]) =>
		kits.filter((k) => verdicts.includes(k.check?.result.verdict ?? '')).map((k) => k.name);
	const [right, off] = [told(['agrees']), told(['reads-high', 'reads-low'])];
	if (right.length === 1 && right[0])
		return `${right[0]} agrees with a reference: it is the other that is off${off.length ? '' : ', and a check of it would say by how much'}.`;
	if (off.length === 1 && !right.length && off[0])
		return `${off[0]} is off by a reference. Check the other too.`;
	if (off.length === 2) return 'Both are off by a reference.';
	return 'Which is right, a reference tells, or a lab.';
}

/** Several readings of one water in a session, as one number, and whether one more is worth its minutes. */
export function repeatedInWords({
	title,
	unit,
	times,
	result,
	seconds
}: Omit<Repeated, 'parameter'>): string {
	const { mean, agree, apart, next, gain } = result;
	const word = (u: number) => `± ${figures(COVERAGE_95 * u, 2)}`;
	const as = `${title}, ${times} times: ${inWords(
		{ ...mean, qualifier: '=', interval: [null, null] },
		unit
	)} as one.`;
	const said = agree
		? 'They agree.'
		: apart.length === times
			? 'They differ by more than their scatter, and nobody can say which is off.'
			: `They differ by more than their scatter: number ${apart.map((i) => i + 1).join(' and ')} lies apart.`;
	const its = seconds > 0 ? `its ${minutes(seconds)}` : 'its minutes';
	const more =
		next === 'stop'
			? `One more is not worth ${its}: it would make ${word(gain.standardUncertainty)}.`
			: `One more would make it ${word(gain.standardUncertainty)}.`;
	return `${as} ${said} ${more}`;
}

/** What was found of an amount that was added. */
export function additionInWords({ recovery, verdict }: ReferenceResult): string {
	if (!recovery) return '';
	const found = `${figures(100 * recovery.value, 3)} ± ${figures(100 * COVERAGE_95 * recovery.standardUncertainty, 2)} % of what was added is found`;
	if (verdict === 'agrees') return `${found}: its scale is right within a tenth.`;
	if (verdict === 'unsure') return `${found}: that tells nothing yet. Test each twice, or add more.`;
	return `${found}, ${verdict === 'reads-high' ? 'more than' : 'less than'} was added by more than noise: its scale is off.`;
}

/** What a difference of two waters says: the chance that the errors of both make as much. */
export function besideInWords(difference: number, chance: number): string {
	if (chance >= 0.05) return `○ no difference shown: errors alone do that ${percent(chance)}`;
	return `${difference < 0 ? '▼ less' : '▲ more'}, beyond what errors explain`;
}

/** Which kit for what, in one sentence. */
export function bestInWords(
	{
		kits,
		best
	}: { kits: Pick<KitChecks['kits'][number], 'id' | 'name' | 'card'>[]; best: KitChecks['best'] },
	parameter: string
): string {
	const named = (id: string | undefined) => kits.find((k) => k.id === id);
	const [surest, quickest, cheapest] = [named(best.surest), named(best.quickest), named(best.cheapest)];
	const say = saying(parameter, 0);
	return [
		surest?.card.standardUncertainty &&
			`surest ${surest.name} (${say.error(surest.card.standardUncertainty)} ${say.unit})`,
		quickest?.card.hands && `quickest ${quickest.name} (${minutes(quickest.card.hands)} of hands)`,
		cheapest?.card.cost && `cheapest ${cheapest.name} (${figures(cheapest.card.cost, 2)} a test)`
	]
		.filter(Boolean)
		.join(', ')
		.replace(/^./, (c) => c.toUpperCase());
}
/** A kind of instrument for salinity, by what it goes by. */
export const readsByInWords = (by: ReadsBy): string =>
	({ refraction: 'refractometer', density: 'hydrometer', conductivity: 'conductivity meter' })[by];

export const minutes = (seconds: number): string =>
	seconds < 90 ? `${Math.round(seconds)} s` : `${Math.round(seconds / 60)} min`;

/** Eye against photograph, on vials of known content. */
export function seeingInWords({
	readings,
	cameraNearer,
	better,
	chance
}: NonNullable<KitChecks['kits'][number]['card']['seeing']>): string {
	const count = `the photograph was nearer ${cameraNearer} of ${plural(readings, 'time')}`;
	if (better === 'unsure') return `Eye or camera: ${count}; chance alone does that ${percent(chance)}`;
	return better === 'camera'
		? `Here the camera sees better than the eye: ${count}`
		: `Here the eye sees better than the camera: ${count}`;
}
