import { good, nth, type Outcome } from '../base';
import {
	PARAMETERS,
	PHASES,
	parametersWith,
	parameterOf,
	type Phase,
	type SchoolId,
	type Target
} from '../catalogue';
import type { Band } from './placing';
import type { TargetsRequest, TargetsResult } from './schema';

/** What harms animals at whatever level a keeper set: wider bands are for a tank in which nothing lives yet. */
export const POISONS: string[] = parametersWith('poison');
/** What ammonia becomes while bacteria grow: all three rise and fall, by days. */
export const CHAIN = [...POISONS, 'nitrate'];

interface School {
	id: SchoolId;
	title: string;
	why: string;
	targets: Record<string, Target>;
}

const school = (id: SchoolId, title: string, why: string): School => ({
	id,
	title,
	why,
	targets: Object.fromEntries(PARAMETERS.flatMap((p) => (p.targets ? [[p.id, p.targets[id]]] : [])))
});

export const SCHOOLS: School[] = [
	school(
		'natural levels',
		'Natural levels',
		'Sea water as the sea has it: little to dose, little to go wrong.'
	),
	school(
		'raised levels',
		'Raised levels',
		'More alkalinity builds skeleton faster, where light and food keep up.'
	),
	school(
		'low nutrients',
		'Low nutrients',
		'As little nitrate and phosphate as can be, for colour; then alkalinity stays low too.'
	),
	school('fed tank', 'Fed tank', 'Nitrate never zero: food for corals and no bare rock for pests.')
];

/**
 * Whether nothing lives in a tank yet.
 *
 * @example isEarly('cycling') // → true
 */
export const isEarly = (phase: Phase): boolean => phase === 'new' || phase === 'cycling';

/** Kinds of events that only a tank with animals has. */
export const LIVED_IN = ['livestock', 'death'];
/** So long ago at most, days: what was written down of a tank's earlier life says nothing of it now. */
export const LIVED_IN_LATELY = 30;

/**
 * Bands, ideals, alarms and healthy changes a day of a school, as the phase of the tank and the keeper change them.
 *
 * @example targets({ school: 'raised levels', phase: 'settled' }).value.targets.calcium.ideal // → 430
 */
export function targets({ school, phase, own }: TargetsRequest): Outcome<TargetsResult> {
	const chosen = SCHOOLS.find((s) => s.id === school) ?? nth(SCHOOLS, 0);
	const found: Record<string, Target> = {};
	const early = isEarly(phase);
	for (const [parameter, usual] of Object.entries(chosen.targets)) {
		const merged = { ...usual, ...(early ? parameterOf(parameter)?.targetsEarly : undefined) };
		const [low, high] = merged.alarm;
		found[parameter] = { ...merged, alarm: [Math.min(low, merged.lower), Math.max(high, merged.upper)] };
	}
	for (const [parameter, band] of Object.entries(own ?? {})) {
		if (!(band.lower < band.upper))
			return {
				ok: false,
				problems: [{ path: `/own/${parameter}`, message: 'must have its lower limit below its upper limit' }]
			};
		const usual = found[parameter];
		const width = band.upper - band.lower;
		found[parameter] = {
			...band,
			ideal:
				usual && usual.ideal > band.lower && usual.ideal < band.upper ? usual.ideal : band.lower + width / 2,
			alarm:
				usual && POISONS.includes(parameter)
					? usual.alarm
					: usual
						? [Math.min(usual.alarm[0], band.lower), Math.max(usual.alarm[1], band.upper)]
						: [Math.max(0, band.lower - width), band.upper + width],
			healthyPerDay: usual?.healthyPerDay ?? width / 10
		};
	}
	return good({ school: chosen.id, why: chosen.why, targets: found });
}

/** What a tank without animals allows of a poison must not stand where there are some: the common band and alarm at most. */
export function ofAnimals(
	parameter: string,
	target: Band & { alarm?: [number, number] | undefined }
): Band & {
	alarm: [number, number];
} {
	const usual = parameterOf(parameter)!.targets!['natural levels'];
	const [low, high] = target.alarm ?? usual.alarm;
	return {
		...target,
		lower: Math.min(target.lower, usual.lower),
		upper: Math.min(target.upper, usual.upper),
		alarm: [Math.min(low, usual.alarm[0]), Math.min(high, usual.alarm[1])]
	};
}

/**
 * Which of some bands are the keeper's own: those that no phase of the school has. Bands of a phase go with the phase, also
 * where they were written down while it lasted.
 */
export function ownBands(school: string, bands: Record<string, Band>): Record<string, Band> {
	const chosen = SCHOOLS.some((s) => s.id === school);
	if (!chosen) return bands;
	const usual = PHASES.map((phase) => targets({ school, phase }));
	return Object.fromEntries(
		Object.entries(bands).filter(([parameter, band]) =>
			usual.every((of) => {
				const its = of.ok ? of.value.targets[parameter] : undefined;
				return its?.lower !== band.lower || its.upper !== band.upper;
			})
		)
	);
}
