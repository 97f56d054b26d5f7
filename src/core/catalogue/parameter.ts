import type { Unit } from './unit';

/** Phases of a tank: being filled, its bacteria growing, its first months, settled. */
export const PHASES = ['new', 'cycling', 'young', 'settled'] as const;
export type Phase = (typeof PHASES)[number];

/** Ways to keep a reef, each with bands of its own; their titles and reasons are in `targets/schools.ts`. */
export const SCHOOL_IDS = ['natural levels', 'raised levels', 'low nutrients', 'fed tank'] as const;
export type SchoolId = (typeof SCHOOL_IDS)[number];

/** What a keeper aims at for one parameter, in its own unit. */
export interface Target {
	lower: number;
	ideal: number;
	upper: number;
	/** Outside of these someone is harmed within days. */
	alarm: [number, number];
	/** The largest change a day that animals take without harm. */
	healthyPerDay: number;
}

/** How restless a parameter's water is: spread of the level, and of its daily drift, that one day adds. */
export interface Restlessness {
	/** Unit of the parameter, per square root of a day. */
	level: number;
	/** The same a day, per square root of a day. */
	drift: number;
	/** How fast it may run at first, standard deviation a day. */
	atFirst: number;
	/** How far a tank's level is found from its own usual one over months: standard deviation. */
	spread: number;
	/** How far it jumps when something happens to it (a wrong pour, a top-up that ran, a heater): standard deviation. */
	jump: number;
}

/**
 * What the sea holds at 35 PSU. What is dissolved is told by the kilogram, in the base unit, and goes with salinity: ions in mg (Millero et al. 2008,
 * Deep-Sea Res. I 55, 50, table 4), alkalinity in meq (ibid.).
 */
type OfTheSea = ({ perKg: number } | { value: number }) & {
	/** How far a bucket of it is from that, own unit. */
	standardDeviation: number;
	/** What salt mixes hold, where they are made otherwise: own unit. */
	saltMix: { value: number; standardDeviation: number } | null;
};

/** The unit that values between `from` and `to` are in where nobody says; `sure`: no other would do as well. */
interface UnitBySize {
	unit: string;
	from: number;
	to: number;
	sure: boolean;
}

export type Trait =
	/** It is in the water and is thinned with it: not warmth, not acidity. */
	| 'solute'
	/** It goes with sea salt: what thickens or thins salinity does so to it. */
	| 'ion'
	/** It feeds; new water holds none unless it is said to. */
	| 'nutrient'
	/** It harms animals at whatever level a keeper sets, and a cycled tank has none. */
	| 'poison'
	/** One titration of metals answers for all that have this. */
	| 'metal'
	/** What moves one of these moves the others: they are followed as one water. */
	| 'coupled'
	/** A plan brings it home. */
	| 'plannable'
	/** A bottle or a powder may be sold for it. */
	| 'dosable'
	/** Tap water and what is made of it are told apart by it. */
	| 'in-tap-water'
	/** It may be below zero. */
	| 'signed'
	/** Its tube stands in the rack also where it was never tested. */
	| 'always-shown'
	/** Keepers choose the unit they count it in. */
	| 'unit-chosen';

/** All that is known of a parameter, in one place: whatever lists parameters is made of these. Numbers are in `unit`, where nothing else is said. */
export interface Parameter {
	id: string;
	title: string;
	/** At most four characters, for a label on glass. */
	symbol: string;
	hint: string;
	/** Where it stands in lists and in the rack, smallest first. */
	place: number;
	traits: readonly Trait[];

	/** The unit it is kept and shown in unless the keeper chooses another. */
	unit: string;
	/** Its units, each by what it is of the base unit (whose factor is 1). */
	units: readonly Unit[];
	/** Values it can take at all, in its base unit; outside is a mistake, not water. */
	possible: readonly [number, number];
	/** 95 % of honest readings with no history lie here. Source: natural sea water, salt mixes and tanks out of hand, as in domain terms. */
	plausible: readonly [number, number];
	/** What the axis of its tube spans. */
	shown: readonly [number, number];

	/** What keepers call it, in lower case. */
	words: readonly string[];
	/** What other languages and habits call it in the headers of a sheet, beside `words`. */
	wordsElsewhere: readonly string[];
	/** The unit that some of both say with it, where nothing else does. */
	unitSaid: Readonly<Record<string, string>>;
	/** As bottles write it; null where none is sold for it. */
	onLabels: RegExp | null;
	/** Unit words after a number. `null`: could mean two units, and the keeper has to say which. */
	unitWords: Readonly<Record<string, string | null>>;
	/** Units that stand side by side on displays, cards and in tables, and are taken for each other. */
	unitsConfused: readonly string[];
	/** Other units by the size of values, the first that holds. Sizes: reef water and its neighbours, as in `plausible`. */
	unitBySize: readonly UnitBySize[];

	/**
	 * What is usual; where there are few readings the estimate leans on it. From how far a reef tank's level strays between two days when nothing
	 * is changed, how its use grows and shrinks over weeks, and what a day's mishap does: a litre of top-up too much, a pour for the wrong
	 * volume, a heater that stays on.
	 */
	restlessness: Restlessness;
	/**
	 * Days between tests by phase, where the routine asks for it. Practice: daily to every other day for the nitrogen chain while cycling;
	 * alkalinity and calcium weekly or more in the first months; later alkalinity every one or two weeks, calcium and magnesium monthly,
	 * nutrients every two to four weeks.
	 */
	routine: Readonly<Partial<Record<Phase, number>>>;
	/** How old the newest test may be for harm and out to rest on it, days: poisons change within days, ions within weeks. */
	youngDays: number;

	sea: OfTheSea | null;
	/** Ions it is, by formula, and what a mole of them counts in the base unit, g. */
	ions: Readonly<Record<string, number>>;
	/** Of several things a salt brings, the smallest of these names the bottle; null: it names none. */
	namesBottle: number | null;
	/** The salt that a label's promise is taken for, where it says no more. */
	usualSalt: string | null;
	/** What a dKH of calcification takes of it; null: nothing. */
	takenPerDkh: number | null;

	/** By school. Changes a day are what keepers call slow: of salinity SG 0.001 to 0.002, of nitrate a quarter of its usual upper limit. */
	targets: Readonly<Record<SchoolId, Target>> | null;
	/** What of its targets is otherwise while a tank is filled or cycles: corals are not there yet. */
	targetsEarly: Readonly<Partial<Target>>;
}

/** Of what no salt brings and the sea is not asked for. */
export const NO_CHEMISTRY = { sea: null, ions: {}, namesBottle: null, usualSalt: null, takenPerDkh: null };
/** Of what no school aims at. */
export const NO_TARGETS = { targets: null, targetsEarly: {} };
/** Of what is taken for no other unit, by its word, its size or its print. */
export const PLAIN_UNITS = { unitSaid: {}, unitsConfused: [], unitBySize: [] };

/** A parameter's record, its id kept as a word of its own. */
export const parameter = <const Id extends string>(of: Parameter & { id: Id }): Parameter & { id: Id } => of;

/** One target for every school, but for those that have their own. */
export const targetsOf = (
	common: Target,
	own: Partial<Record<SchoolId, Target>> = {}
): Record<SchoolId, Target> =>
	Object.fromEntries(SCHOOL_IDS.map((id) => [id, own[id] ?? common])) as Record<SchoolId, Target>;

/** Written as the band with its ideal between, the alarm around it, and the healthy change a day. */
export const target = (
	lower: number,
	ideal: number,
	upper: number,
	alarm: [number, number],
	healthyPerDay: number
): Target => ({ lower, ideal, upper, alarm, healthyPerDay });
