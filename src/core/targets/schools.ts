import { good, nth, type Outcome } from '../base';
import type { Phase } from './due';
import type { Band } from './placing';
import type { TargetsRequest, TargetsResult } from './schema';

/** What a keeper aims at for one parameter, in its own unit. */
export interface Target extends Band {
	ideal: number;
	/** Outside of these someone is harmed within days. */
	alarm: [number, number];
	/** The largest change a day that animals take without harm. */
	healthyPerDay: number;
}

export interface School {
	id: string;
	title: string;
	why: string;
	targets: Record<string, Target>;
}

const target = (
	lower: number,
	ideal: number,
	upper: number,
	alarm: [number, number],
	healthyPerDay: number
): Target => ({ lower, ideal, upper, alarm, healthyPerDay });

/** What harms animals at whatever level a keeper set: wider bands are for a tank in which nothing lives yet. */
export const POISONS = ['ammonia', 'nitrite'];
/** What ammonia becomes while bacteria grow: all three rise and fall, by days. */
export const CHAIN = [...POISONS, 'nitrate'];

/** What all schools share. Changes a day: what keepers call slow; salinity's is SG 0.001 to 0.002. */
const COMMON: Record<string, Target> = {
	calcium: target(400, 425, 450, [350, 520], 20),
	magnesium: target(1250, 1330, 1400, [1100, 1600], 50),
	potassium: target(380, 400, 420, [320, 480], 10),
	salinity: target(34, 35, 36, [30, 39], 1.3),
	ph: target(7.8, 8.15, 8.4, [7.5, 8.7], 0.3),
	temperature: target(24, 25.2, 26.5, [21, 29], 1),
	ammonia: target(0, 0, 0.1, [0, 0.5], 0.1),
	nitrite: target(0, 0, 0.1, [0, 1], 0.1)
};

/** Of nitrate a quarter a day is slow; of its usual upper edge here. */
export const SCHOOLS: School[] = [
	{
		id: 'natural levels',
		title: 'Natural levels',
		why: 'Sea water as the sea has it: little to dose, little to go wrong.',
		targets: {
			...COMMON,
			alkalinity: target(6.5, 7.2, 8, [5.5, 12], 0.5),
			nitrate: target(1, 4, 10, [0, 50], 2.5),
			phosphate: target(0.02, 0.05, 0.1, [0, 0.5], 0.02)
		}
	},
	{
		id: 'raised levels',
		title: 'Raised levels',
		why: 'More alkalinity builds skeleton faster, where light and food keep up.',
		targets: {
			...COMMON,
			alkalinity: target(8, 8.7, 9.5, [6, 12], 0.5),
			calcium: target(410, 430, 460, [350, 520], 20),
			nitrate: target(2, 6, 15, [0, 50], 2.5),
			phosphate: target(0.03, 0.06, 0.1, [0, 0.5], 0.02)
		}
	},
	{
		id: 'low nutrients',
		title: 'Low nutrients',
		why: 'As little nitrate and phosphate as can be, for colour; then alkalinity stays low too.',
		targets: {
			...COMMON,
			alkalinity: target(6.5, 7.2, 8, [5.5, 10], 0.5),
			nitrate: target(0.2, 1, 5, [0, 40], 1),
			phosphate: target(0.01, 0.03, 0.06, [0, 0.4], 0.01)
		}
	},
	{
		id: 'fed tank',
		title: 'Fed tank',
		why: 'Nitrate never zero: food for corals and no bare rock for pests.',
		targets: {
			...COMMON,
			alkalinity: target(7.5, 8.3, 9.5, [6, 12], 0.5),
			nitrate: target(5, 10, 25, [0, 60], 5),
			phosphate: target(0.04, 0.08, 0.15, [0, 0.6], 0.02)
		}
	}
];

/** While a tank is filled or cycles, nutrients have no lower edge and may run up; corals are not there yet. */
const UNSETTLED: Record<string, Partial<Target>> = {
	nitrate: { lower: 0, upper: 50 },
	phosphate: { lower: 0, upper: 0.3 },
	ammonia: { upper: 4, alarm: [0, 8] },
	nitrite: { upper: 5, alarm: [0, 10] }
};

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
		const merged = { ...usual, ...(early ? UNSETTLED[parameter] : undefined) };
		const [low, high] = merged.alarm;
		found[parameter] = { ...merged, alarm: [Math.min(low, merged.lower), Math.max(high, merged.upper)] };
	}
	for (const [parameter, band] of Object.entries(own ?? {})) {
		if (!(band.lower < band.upper))
			return {
				ok: false,
				problems: [{ path: `/own/${parameter}`, message: 'must have its lower edge below its upper edge' }]
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
	const usual = COMMON[parameter]!;
	const [low, high] = target.alarm ?? usual.alarm;
	return {
		...target,
		lower: Math.min(target.lower, usual.lower),
		upper: Math.min(target.upper, usual.upper),
		alarm: [Math.min(low, usual.alarm[0]), Math.min(high, usual.alarm[1])]
	};
}

const PHASES: Phase[] = ['new', 'cycling', 'young', 'settled'];

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
