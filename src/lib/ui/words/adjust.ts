/** Plans as people say them. Core gives kinds and numbers; the sentences are messages. */
import type { Caution, CorrectResult, PlanStep, Supplement } from '$core/adjust';
import { formatUnit, valueIn } from '$core/quantities';
import { nameInSentence, parameterOf, titleOf, hasTrait } from '$core/catalogue';
import type { PlanChange } from '$lib/api/plans';
import * as say from '$messages/adjust';
import { figures, unitFor } from '../habits';
import { changeFor, doseUnit, valueFor, volumeFor, volumeUnit } from '../mine';
import { listed } from './judgements';

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
const percent = (share: number): string => `${Math.round(100 * share)} %`;
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

/** A change of a level without its sign. */
const amountOf = (parameter: string, change: number, level: number): string =>
	`${figures(Math.abs(changeFor(parameter, change, level)), 2)} ${unitOf(parameter)}`.trim();

/** Powder by level spoons where one was weighed, in halves. */
const spoons = (grams: number, spoonG: number, weighed: string): string => {
	const n = Math.max(0.5, Math.round((2 * grams) / spoonG) / 2);
	return say.spoons({ n, count: figures(n), weighed });
};

/** An amount in what the keeper measures with. */
export function amountInWords(amount: number, unit: PlanStep['unit'], spoonG?: number): string {
	if (unit === 'L') return `${figures(volumeFor(amount))} ${volumeUnit()}`;
	if (unit === 'mL/day') return say.mlADay({ amount: figures(amount) });
	if (unit !== 'g') return `${figures(amount)} mL`;
	const ounces = doseUnit() === 'oz';
	const weighed = ounces ? `${figures(valueIn('mass', amount, 'g', 'oz'))} oz` : `${figures(amount)} g`;
	return spoonG === undefined ? weighed : spoons(amount, spoonG, weighed);
}

/** What a step is: "37 mL of Soda", "Change 40 L of water, 20 %", "Test alkalinity". */
export function stepInWords(step: PlanStep, its: Pick<Supplement, 'name' | 'spoonG'> | undefined): string {
	const amount = amountInWords(step.amount ?? 0, step.unit, its?.spoonG);
	const supplement = its?.name ?? say.someSupplement();
	switch (step.kind) {
		case 'test':
			return say.testIt({ parameter: nameInSentence(step.parameter ?? '') });
		case 'dose':
			return say.doseOf({ amount, supplement });
		case 'dosing-rate':
			return step.amount ? say.setPump({ amount, supplement }) : say.stopPump({ supplement });
		case 'water-change':
			return say.changeWater({ amount, share: percent(step.fraction ?? 0) });
		case 'salt':
			return say.addSalt({ amount });
		case 'fresh-water':
			return say.addFresh({ amount });
		case 'wait':
			return say.nothingToDose();
	}
}

const TEST_REASONS: Record<string, () => string> = {
	odd: say.whyOdd,
	unproved: say.whyUnproved,
	contradicts: say.whyContradicts,
	'salinity-first': say.whySalinityIn,
	'before-acting': say.whyBeforeActing,
	check: say.whyCheck,
	unsure: say.whyUnsure
};

/** Why a step stands where it does. */
export function reasonInWords({ kind, why, parameter: of = '' }: PlanStep): string {
	const parameter = nameInSentence(of);
	if (kind === 'wait')
		return why === 'check' ? say.whyAllInRange() : why === 'out' ? say.whyNothingHelps() : say.whyNextBelow();
	if (kind === 'test') return TEST_REASONS[why]?.() ?? '';
	if (kind === 'dosing-rate') return (why === 'tune' ? say.whyTune : say.whyTooHigh)({ parameter });
	if (kind === 'water-change') return say.whyChange();
	if (why === 'salinity-first') return say.whySalinityFirst();
	return why === 'bring-home' ? say.whyBring() : say.whyHold();
}

/** When on a day calcium and alkalinity are dosed, hours apart; a plan that is made in the evening begins in the evening. */
function hourInWords(step: PlanStep, late: boolean, both: boolean): string {
	if (!step.when) return '';
	if (!late) return step.when === 'morning' ? say.inMorning() : say.inEvening();
	return !both || step.when === 'morning' ? say.tonight() : say.hoursAfter();
}

/** How a dose is given: "in 3 portions, hours apart, in the morning". `late`: it is evening on that day; `both`: calcium and alkalinity are. */
export function mannerInWords(step: PlanStep, mostPortions: number, late: boolean, both: boolean): string {
	if (step.kind !== 'dose') return '';
	const portions = step.portions ?? 1;
	if (portions >= mostPortions) return say.overnight();
	const when = hourInWords(step, late, both);
	if (portions <= 1) return when;
	const n = String(portions);
	return when ? say.portionsWhen({ n, when }) : say.portions({ n });
}

const CAUTION: Record<Caution, () => string> = {
	burns: say.burns,
	hot: say.hot,
	'raises-ph': say.raisesPh,
	'lowers-ph': say.lowersPh,
	apart: say.apart,
	feeds: say.feeds,
	oxidises: say.oxidises
};
export const cautionInWords = (caution: Caution): string => CAUTION[caution]();
/** What holds for every dose. */
export const alwaysInWords = (): string => say.always();

const REFUSAL: Record<CorrectResult['refused'][number]['why'], typeof say.refusedOdd> = {
	odd: say.refusedOdd,
	unproved: say.refusedUnproved,
	unknown: say.refusedUnknown,
	contradicts: say.refusedContradicts,
	'salinity-first': say.refusedSalinity,
	'no-supplement': say.refusedNoSupplement
};
export const refusalInWords = ({ parameter, why }: CorrectResult['refused'][number]): string =>
	REFUSAL[why]({ Parameter: titleOf(parameter) });

/** What a supplement is called, and what it is measured in. */
export interface Bottle {
	name: string;
	unit: 'mL' | 'g';
}
type Risk = CorrectResult['risks'][number];

export function riskInWords(risk: Risk, bottles: Record<string, Bottle>): string {
	const { kind, day, numbers, parameter = '' } = risk;
	const n = (name: string): number => numbers[name] ?? 0;
	const bottle = risk.supplement === undefined ? undefined : bottles[risk.supplement];
	const supplement = bottle?.name ?? say.someSupplement();
	const amount = (name: string): string => amountInWords(n(name), bottle?.unit ?? 'mL');
	const when = day <= 0 ? say.today() : say.onDay({ day: String(day + 1) });
	const limited = (limit: string) => ({
		Parameter: titleOf(parameter),
		level: levelInWords(parameter, n('level')),
		when,
		limit: levelInWords(parameter, n(limit))
	});
	switch (kind) {
		case 'alarm':
			return n('level') < n('alarm')
				? say.alarmBelow({ ...limited('alarm'), change: amountOf(parameter, n('needsPerDay'), n('level')) })
				: say.alarmAbove(limited('alarm'));
		case 'stock': {
			const holes = { supplement: capital(supplement), needed: amount('needs'), left: amount('has') };
			return n('needs') > n('has') ? say.runsOut(holes) : say.nearlyEmpty(holes);
		}
		case 'band':
			if (n('level') >= n('edge')) return say.bandAbove(limited('edge'));
			return (n('bottles') ? say.bandBelow : say.bandBelowNothing)(limited('edge'));
		case 'pour':
			return say.notByHand({ supplement });
		case 'saturation':
			return say.saturation({ omega: figures(n('omega'), 2), when });
		case 'volume':
			return say.volumeUncertain({ share: percent(n('relative')) });
		case 'moved':
			return risk.supplement === undefined
				? say.movedNoChange({ when })
				: say.movedLess({
						supplement: capital(supplement),
						when,
						got: amount('got'),
						wanted: amount('wanted')
					});
		case 'salt-creep':
			return say.saltCreep({ change: levelInWords('salinity', n('psu')) });
	}
}

/** What comes down by itself or not at all, where a plan ends before it is in range. */
export function notHomeInWords(parameter: string, above: boolean, days: number): string {
	const holes = { Parameter: titleOf(parameter), days };
	if (!above) return say.notInRange(holes);
	return hasTrait(parameter, 'nutrient') ? say.notInRangeNutrient(holes) : say.notInRangeHigh(holes);
}

/** Of a level whose tests do not say whether it is out of its band. */
export const unsureInWords = (parameter: string): string =>
	say.uncertainRange({ Parameter: titleOf(parameter) });

/** A plan with nothing to do: what to do first, if anything helps. `untested`: parameters that wait for a test. */
export function idleInWords(untested: string[], allHome: boolean): string {
	if (untested.length) return say.idleUntested({ parameters: listed(untested) });
	return allHome ? say.idleAllInRange() : say.idleNothingHelps();
}

/** A dosing pump that is left as it is. */
export const dosingPumpKeptInWords = (supplement: string, rate: string): string =>
	say.pumpKept({ supplement, rate });

/** Why nothing is dosed for a level now that was dosed for before. */
const WAITS: Record<string, () => string> = {
	odd: say.waitsOdd,
	unproved: say.waitsUnproved,
	unknown: say.waitsUnknown,
	contradicts: say.waitsContradicts,
	'salinity-first': say.waitsSalinity,
	'no-supplement': say.waitsSupplement
};
/** Why the plan is another one than before. */
export function planChangeInWords(change: PlanChange): string {
	const { parameter, expected, now, beyondNoise, before, after, refusedBefore, refusedNow } = change;
	const holes = { Parameter: titleOf(parameter), level: levelInWords(parameter, now) };
	const seen = beyondNoise
		? say.seenOther({ ...holes, expected: levelInWords(parameter, expected) })
		: say.seenAsExpected(holes);
	const left = { after: changeInWords(parameter, after, now), before: changeInWords(parameter, before, now) };
	const follows =
		!refusedBefore && refusedNow
			? WAITS[refusedNow]?.()
			: refusedBefore && !refusedNow
				? say.knownNow()
				: Math.abs(after - before) <= 0.1 * Math.max(after, before)
					? undefined
					: (after < before ? say.lessToDose : say.moreToDose)(left);
	return follows ? `${seen} ${follows}` : seen;
}

/** What it costs to do it another way: "1 more day out of range · 2 more doses". */
export function priceOfMoveInWords(
	before: { home: number | null; daysOut: number; pours: number; safe: boolean },
	after: { home: number | null; daysOut: number; pours: number; safe: boolean }
): string {
	if (!after.safe) return say.notSafe();
	const out = after.daysOut - before.daysOut;
	const later = (after.home ?? 0) - (before.home ?? 0);
	const more = after.pours - before.pours;
	const [days, n] = [Math.abs(later), Math.abs(more)];
	const parts = [
		before.home !== null && after.home === null
			? say.notAllInRange()
			: before.home === null && after.home !== null
				? say.allInRange()
				: later && (later > 0 ? say.daysLater({ days }) : say.daysSooner({ days })),
		out && out !== later && (out > 0 ? say.daysMoreOut : say.daysFewerOut)({ days: Math.abs(out) }),
		more && (more > 0 ? say.dosesMore({ n }) : say.dosesFewer({ n }))
	].filter(Boolean);
	return parts.join(' · ') || say.costsNothing();
}
