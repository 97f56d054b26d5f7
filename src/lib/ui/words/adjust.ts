/** Plans as people say them. Core gives kinds and numbers. */
import type { Caution, CorrectResult, PlanStep, Supplement } from '$core/adjust';
import { formatUnit, valueIn } from '$core/quantities';
import { nameInSentence, parameterOf, titleOf, hasTrait } from '$core/catalogue';
import type { PlanChange } from '$lib/api/plans';
import { figures, unitFor } from '../habits';
import { changeFor, doseUnit, valueFor, volumeFor, volumeUnit } from '../mine';
import { plural } from './plural';

const nameOf = (parameter: string): string => nameInSentence(parameter);
const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
const unitOf = (parameter: string): string =>
	formatUnit(unitFor(parameter) || parameterOf(parameter)?.unit || '');
/** A level as this person counts it, with its unit. */
export const levelInWords = (parameter: string, value: number): string =>
	[figures(valueFor(parameter, value), unitFor(parameter).startsWith('SG') ? 5 : 3), unitOf(parameter)]
		.filter(Boolean)
		.join(' ');
/** "+0.5 dKH", at a level. */
export function changeInWords(parameter: string, change: number, level: number): string {
	const mine = changeFor(parameter, change, level);
	return `${mine < 0 ? '−' : '+'}${figures(Math.abs(mine), 2)} ${unitOf(parameter)}`.trim();
}

/** Powder by level spoons where one was weighed, in halves. */
const spoons = (grams: number, spoonG: number): string => {
	const count = Math.max(0.5, Math.round((2 * grams) / spoonG) / 2);
	return `${figures(count)} level ${count === 1 ? 'spoon' : 'spoons'}`;
};

/** An amount in what the keeper measures with. */
export function amountInWords(amount: number, unit: PlanStep['unit'], spoonG?: number): string {
	if (unit === 'L') return `${figures(volumeFor(amount))} ${volumeUnit()}`;
	if (unit === 'mL/day') return `${figures(amount)} mL a day`;
	if (unit !== 'g') return `${figures(amount)} mL`;
	const ounces = doseUnit() === 'oz';
	const weighed = ounces ? `${figures(valueIn('mass', amount, 'g', 'oz'))} oz` : `${figures(amount)} g`;
	return spoonG === undefined ? weighed : `${spoons(amount, spoonG)} (${weighed})`;
}

/** What a step is: "37 mL of Soda", "Change 40 L, 20 %", "Test alkalinity". */
export function stepInWords(
	step: PlanStep,
	supplement: Pick<Supplement, 'name' | 'spoonG'> | undefined
): string {
	const amount = amountInWords(step.amount ?? 0, step.unit, supplement?.spoonG);
	switch (step.kind) {
		case 'test':
			return `Test ${nameOf(step.parameter ?? '')}`;
		case 'dose':
			return `${amount} of ${supplement?.name ?? 'it'}`;
		case 'dosing-rate':
			return step.amount
				? `Set the dosing pump to ${amount} of ${supplement?.name ?? 'it'}`
				: `Stop the dosing pump of ${supplement?.name ?? 'it'}`;
		case 'water-change':
			return `Change ${amount} of water, ${Math.round(100 * (step.fraction ?? 0))} %`;
		case 'salt':
			return `${amount} of salt mix, dissolved beforehand in water you took out`;
		case 'fresh-water':
			return `Take out ${amount} and put in purified water`;
		case 'wait':
			return 'Nothing to pour';
	}
}

/** Why a step stands where it does. */
export function reasonInWords(step: PlanStep): string {
	const name = nameOf(step.parameter ?? '');
	if (step.kind === 'wait')
		return step.why === 'check'
			? 'All is as it should be.'
			: step.why === 'out'
				? 'Not all is as it should be, and nothing in this plan helps: “Also” says why.'
				: 'The next step is below.';
	if (step.kind === 'test')
		return {
			odd: 'its last test does not fit the others',
			unproved: 'not known well enough to pour by',
			contradicts: 'its level, its use and its dosing pump do not fit together',
			'salinity-first': 'salinity is home then, and has moved it',
			'before-acting': 'before more is poured by a number that is not sure',
			check: 'to see what it did',
			unsure: 'known too badly to say that it stays clear of where animals come to harm'
		}[step.why as string] as string;
	if (step.kind === 'dosing-rate')
		return step.why === 'tune' ? `the tank uses that much ${name}` : `${name} is too high`;
	if (step.kind === 'water-change') return 'moves every level towards the new water';
	if (step.why === 'salinity-first') return 'salinity comes first: it moves all the others';
	return step.why === 'bring-home' ? 'brings it into its band' : 'holds it there';
}

/** When on a day calcium and alkalinity are poured, hours apart; a plan that is made in the evening begins in the evening. */
function hourInWords(step: PlanStep, late: boolean, both: boolean): string {
	if (!step.when) return '';
	if (!late) return step.when === 'morning' ? 'in the morning' : 'in the evening';
	if (!both) return 'tonight';
	return step.when === 'morning' ? 'tonight' : 'hours after it, or tomorrow morning instead';
}

/** How a pour is poured: "in 3 portions, hours apart, in the morning". `late`: it is evening on that day; `both`: calcium and alkalinity are. */
export function mannerInWords(step: PlanStep, mostPortions: number, late: boolean, both: boolean): string {
	if (step.kind !== 'dose') return '';
	const portions = step.portions ?? 1;
	const parts =
		portions >= mostPortions
			? ['by a drip or a dosing pump over the night']
			: [portions > 1 ? `in ${portions} portions, hours apart` : '', hourInWords(step, late, both)];
	return parts.filter(Boolean).join(', ');
}

const CAUTION: Record<Caution, string> = {
	burns: 'It burns eyes and skin: gloves and glasses, and out of children’s reach.',
	hot: 'It grows hot in water: put it into the water, never water onto it.',
	'raises-ph': 'It raises pH at once: in the morning, slowly, into good flow.',
	'lowers-ph': 'It lowers pH a little for some hours.',
	apart:
		'Never together with what brings the other of calcium and alkalinity: they fall out. Hours apart, and rinse what you measure with.',
	feeds: 'It feeds algae too: little at a time.',
	oxidises: 'It feeds fire: keep it dry and away from what burns.'
};
export const cautionInWords = (caution: Caution): string => CAUTION[caution];
/** What holds for every pour. */
export const ALWAYS =
	'Pour slowly into good flow, away from animals, with dry hands near electricity. The label and local rules come before this plan; with sick animals a vet does, and a lab before any kit.';

export function refusalInWords({ parameter, why }: CorrectResult['refused'][number]): string {
	const title = titleOf(parameter);
	const name = nameOf(parameter);
	return {
		odd: `${title}: its last test does not fit the others. Test it again before anything is poured by it.`,
		unproved: `${title}: too few tests, too old ones, or none by a chart of your own. Test it before anything is poured by it.`,
		unknown: `${title}: its error covers the whole band. Test it before anything is poured by it.`,
		contradicts: `${title}: its level, what the tank uses and what the dosing pump gives do not fit together. Test it, and look at the dosing pump, before anything is poured by it.`,
		'salinity-first': `${title}: salinity is out of its band and moves it. Until salinity is home it is only held where it is.`,
		'no-supplement': `${title}: nothing on your shelf brings ${name} up, nor does your new water.`
	}[why];
}

const AS_FAST =
	'No more is poured on a day than animals take, and than what is known of it allows: test it, and plan anew.';

export function riskInWords(risk: CorrectResult['risks'][number], names: Record<string, string>): string {
	const { kind, day, numbers, parameter = '', supplement = '' } = risk;
	const on = day <= 0 ? 'today' : `on day ${day + 1}`;
	switch (kind) {
		case 'alarm': {
			const level = levelInWords(parameter, numbers['level'] ?? 0);
			const alarm = levelInWords(parameter, numbers['alarm'] ?? 0);
			const below = (numbers['level'] ?? 0) < (numbers['alarm'] ?? 0);
			const uses = figures(changeFor(parameter, numbers['needsPerDay'] ?? 0, numbers['level'] ?? 0), 2);
			return below
				? `This is no plan to follow: ${nameOf(parameter)} would be at ${level} ${on}, below ${alarm}, where animals come to harm. The tank takes ${uses} ${unitOf(parameter)} a day: put something on the shelf that brings it, or allow larger or earlier water changes.`
				: `This is no plan to follow: ${nameOf(parameter)} would be at ${level} ${on}, above ${alarm}, where animals come to harm. Allow larger or earlier water changes, and stop what brings it.`;
		}
		case 'stock':
			return (numbers['needs'] ?? 0) > (numbers['has'] ?? 0)
				? `${names[supplement] ?? 'A bottle'} will not last: ${figures(numbers['needs'] ?? 0)} are needed, ${figures(numbers['has'] ?? 0)} are left.`
				: `${names[supplement] ?? 'A bottle'} will be nearly empty: ${figures(numbers['needs'] ?? 0)} of ${figures(numbers['has'] ?? 0)} are poured.`;
		case 'band': {
			const level = levelInWords(parameter, numbers['level'] ?? 0);
			const edge = levelInWords(parameter, numbers['edge'] ?? 0);
			return (numbers['level'] ?? 0) < (numbers['edge'] ?? 0)
				? `${titleOf(parameter)} would be at ${level} ${on}, below its band, which begins at ${edge}. ${numbers['bottles'] ? AS_FAST : 'Nothing that is poured here brings it up.'}`
				: `${titleOf(parameter)} would be at ${level} ${on}, above its band, which ends at ${edge}. Nothing that is poured takes it away: use and water changes do.`;
		}
		case 'pour':
			return `${capital(names[supplement] ?? 'It')} cannot be poured by hand: let it drip in over the night, or use a dosing pump.`;
		case 'saturation':
			return `Saturation of aragonite comes to ${figures(numbers['omega'] ?? 0, 2)} ${on}: near where carbonate falls out on heaters and pumps.`;
		case 'volume':
			return `The net volume is only known to ${Math.round(100 * (numbers['relative'] ?? 0))} %: pours are kept smaller for it. Measure it by a pour and two tests.`;
		case 'moved':
			return supplement
				? `${capital(names[supplement] ?? 'What you moved')} ${on}: ${figures(numbers['got'] ?? 0)} of ${figures(numbers['wanted'] ?? 0)} go in. More would be faster than animals take it, or too much by then.`
				: `No water change ${on}: it would move a level faster than animals take it, or no level gains by it.`;
		case 'salt-creep':
			return `What is left behind adds ${levelInWords('salinity', numbers['psu'] ?? 0)} of salinity by then: look at it, and top up with purified water.`;
	}
}

/** What comes down by itself or not at all, where a plan ends without it being home. */
export function notHomeInWords(parameter: string, above: boolean, days: number): string {
	const title = titleOf(parameter);
	if (!above) return `${title} is not home within ${plural(days, 'day')}. ${AS_FAST}`;
	if (hasTrait(parameter, 'nutrient'))
		return `${title} is not home within ${plural(days, 'day')}. It comes down by less food, more export and water changes, slowly; half a change halves it.`;
	return `${title} is not home within ${plural(days, 'day')}. It comes down by use and water changes alone: nothing that is poured takes it away.`;
}

/** Of a level whose tests do not say whether it is out of its band. */
export const unsureInWords = (parameter: string): string =>
	`${titleOf(parameter)}: its tests are not sure enough to say whether it is in its band.`;

/** A plan with nothing to do: what to do first, if anything helps. `untested`: parameters that wait for a test. */
export function idleInWords(untested: string[], allHome: boolean): string {
	if (untested.length) return `Nothing to pour: test ${listed(untested.map(nameOf))} first.`;
	return allHome
		? 'Nothing to pour: every level is in its band.'
		: 'Nothing to pour: nothing on the shelf helps, or it is not sure that anything is wrong. “Also” says which.';
}
const listed = (names: string[]): string =>
	names.length > 1 ? `${names.slice(0, -1).join(', ')} and ${names.at(-1)}` : (names[0] ?? '');

/** A dosing pump that is left as it is. */
export const dosingPumpKeptInWords = (name: string, rate: string): string =>
	`Dosing pump, ${name}: keep ${rate}. What the tank uses differs from it by no more than noise.`;

/** Why nothing is poured for a level now that was poured for before. */
const WAITS: Record<string, string> = {
	odd: 'its last test does not fit the others, so it waits until it is tested again',
	unproved: 'it is not known well enough, so it waits until it is tested again',
	unknown: 'its error covers the whole band, so it waits until it is tested again',
	contradicts:
		'its level, its use and its dosing pump do not fit together, so it waits until it is tested again',
	'salinity-first': 'it waits until salinity is home',
	'no-supplement': 'it waits for something that brings it up'
};
/** Why the plan is another one than before. */
export function planChangeInWords(change: PlanChange): string {
	const { parameter, expected, now, beyondNoise, before, after, refusedBefore, refusedNow } = change;
	const name = titleOf(parameter);
	const seen = beyondNoise
		? `${name} came out at ${levelInWords(parameter, now)} where ${levelInWords(parameter, expected)} was expected, more than noise explains`
		: `${name} is at ${levelInWords(parameter, now)}, as expected within its error`;
	if (!refusedBefore && refusedNow) return `${seen}; ${WAITS[refusedNow] ?? 'it waits now'}.`;
	if (refusedBefore && !refusedNow) return `${seen}: it is known now, and can be acted on.`;
	if (Math.abs(after - before) <= 0.1 * Math.max(after, before)) return `${seen}.`;
	const left = [after, before].map((by) => changeInWords(parameter, by, now)) as [string, string];
	return `${seen}: ${after < before ? 'less' : 'more'} is left to pour, ${left[0]} instead of ${left[1]}.`;
}

/** What it costs to do it another way: "a day longer out of a band, 2 more pours". */
export function priceOfMoveInWords(
	before: { home: number | null; daysOut: number; pours: number; safe: boolean },
	after: { home: number | null; daysOut: number; pours: number; safe: boolean }
): string {
	if (!after.safe) return 'not safe';
	const out = after.daysOut - before.daysOut;
	const later = (after.home ?? 0) - (before.home ?? 0);
	const more = after.pours - before.pours;
	const parts = [
		before.home !== null && after.home === null
			? 'not all home'
			: before.home === null && after.home !== null
				? 'all home'
				: later
					? `home ${plural(Math.abs(later), 'day')} ${later > 0 ? 'later' : 'sooner'}`
					: '',
		out && out !== later ? `${plural(Math.abs(out), 'day')} ${out > 0 ? 'more' : 'fewer'} out of band` : '',
		more ? `${plural(Math.abs(more), 'pour')} ${more > 0 ? 'more' : 'fewer'}` : ''
	].filter(Boolean);
	return parts.join(' · ') || 'costs nothing';
}
