import Type from 'typebox';
import { Supplement } from '../supplement';
import { WISHES } from './wishes';
import { oneOf } from '../../base';

const exact = { additionalProperties: false } as const;
const word = Type.String({ minLength: 1, maxLength: 40 });
const value = Type.Number({ minimum: -1e6, maximum: 1e6 });
const spread = Type.Number({ minimum: 0, maximum: 1e6 });
const Estimate = Type.Object({ mean: value, standardDeviation: spread }, exact);

/** One parameter as the water has it; everything in `unit`, which is its own unit. */
export const PlannedParameter = Type.Object(
	{
		parameter: word,
		unit: word,
		now: Estimate,
		/** What the tank takes a day, less than nothing where it rises by itself. */
		usePerDay: Estimate,
		band: Type.Object({ lower: value, upper: value }, exact),
		ideal: Type.Optional(value),
		alarm: Type.Optional(Type.Tuple([value, value])),
		healthyPerDay: Type.Object({ up: spread, down: spread }, exact),
		/** Its newest test may be a misreading: it is repeated before anything is poured for it. */
		odd: Type.Optional(Type.Boolean()),
		/** One test alone, or none by a chart of the keeper’s own: nothing to pour by. */
		unproved: Type.Optional(Type.Boolean()),
		/** Of one test of it; the level’s own where left out. */
		testError: Type.Optional(spread)
	},
	exact
);
export type PlannedParameter = Type.Static<typeof PlannedParameter>;

/** A glass that was moved by hand: nothing of it on the one day, that much on the other. Without a supplement it is the water change. */
export const Move = Type.Object(
	{
		supplement: Type.Optional(Type.String({ maxLength: 80 })),
		from: Type.Integer({ minimum: 0, maximum: 59 }),
		to: Type.Integer({ minimum: 0, maximum: 59 }),
		/** mL or g; of a water change it is left to the plan. */
		amount: Type.Optional(Type.Number({ exclusiveMinimum: 0, maximum: 1e6 }))
	},
	exact
);
export type Move = Type.Static<typeof Move>;

/** As many as one plan takes. */
export const MOST_DOSING_PUMPS = 12;
export const MOST_BOTTLES = 16;
const MOST_MOVES = 24;

/** What a keeper asks of a plan. */
export const PlanWish = Type.Object(
	{
		prefer: Type.Optional(oneOf(WISHES)),
		days: Type.Optional(Type.Integer({ minimum: 3, maximum: 40 })),
		/** Bottles that are to be left alone, by id. */
		without: Type.Optional(Type.Array(Type.String({ maxLength: 80 }), { maxItems: MOST_BOTTLES })),
		/** No water change before this day of the plan; `never`: none. */
		noChangeBefore: Type.Optional(
			Type.Union([Type.Integer({ minimum: 0, maximum: 40 }), Type.Literal('never')])
		),
		/** Glasses that were moved by hand to another day of the plan. */
		moves: Type.Optional(Type.Array(Move, { maxItems: MOST_MOVES }))
	},
	exact
);
export type PlanWish = Type.Static<typeof PlanWish>;

export const CorrectRequest = Type.Object(
	{
		now: Type.String({ format: 'date-time' }),
		days: Type.Integer({ minimum: 1, maximum: 60 }),
		water: Type.Object(
			{
				volumeL: Type.Object(
					{ value: Type.Number({ exclusiveMinimum: 0, maximum: 1e6 }), standardUncertainty: spread },
					exact
				),
				/** PSU */
				salinity: Type.Number({ minimum: 19, maximum: 43 }),
				temperatureC: Type.Number({ minimum: 0, maximum: 40 }),
				/** Total scale. */
				ph: Type.Optional(Type.Number({ minimum: 7, maximum: 9 }))
			},
			exact
		),
		parameters: Type.Array(PlannedParameter, { minItems: 1, maxItems: 12 }),
		/** What a dosing pump gives now; its effect is in `usePerDay` as if it were none: use is what the tank takes. */
		dosing: Type.Array(
			Type.Object(
				{
					supplement: Type.String({ maxLength: 80 }),
					mlPerDay: Type.Number({ minimum: 0, maximum: 1e5 }),
					/** The most its pump gives. */
					mostPerDay: Type.Optional(Type.Number({ minimum: 0, maximum: 1e5 }))
				},
				exact
			),
			{ maxItems: MOST_DOSING_PUMPS }
		),
		supplements: Type.Array(
			Type.Object(
				{
					...Supplement.properties,
					/** mL or g that are left. */
					stock: Type.Optional(Type.Number({ minimum: 0, maximum: 1e7 }))
				},
				exact
			),
			{ maxItems: MOST_BOTTLES }
		),
		change: Type.Optional(
			Type.Object(
				{
					/** The new water, by parameter in own units. */
					water: Type.Record(word, value),
					largestFraction: Type.Number({ exclusiveMinimum: 0, maximum: 0.9 }),
					everyDays: Type.Integer({ minimum: 1, maximum: 60 }),
					/** None before this day of the plan. */
					notBefore: Type.Optional(Type.Integer({ minimum: 0, maximum: 60 })),
					costPerL: Type.Optional(Type.Number({ minimum: 0, maximum: 1e3 }))
				},
				exact
			)
		),
		/** Pours and water changes that the keeper wants on another day: kept as far as animals' limits allow. */
		moves: Type.Optional(Type.Array(Move, { maxItems: MOST_MOVES })),
		prefer: oneOf(WISHES)
	},
	exact
);
export type CorrectRequest = Type.Static<typeof CorrectRequest>;

const STEP_KINDS = ['wait', 'test', 'dose', 'dosing-rate', 'water-change', 'salt', 'fresh-water'] as const;
const REASONS = [
	/** Brings it into its band, or keeps it there. */
	'bring-home',
	'hold',
	/** A number that is not sure enough is measured before it is acted on. */
	'before-acting',
	'odd',
	'unproved',
	'contradicts',
	/** To see what was done. */
	'check',
	/** It is known too badly to say that it stays clear of its alarm. */
	'unsure',
	/** Nothing is done though not all is in its band: the plan has nothing that helps. */
	'out',
	/** The dosing pump gives more or less than the tank uses. */
	'tune',
	'salinity-first'
] as const;

export const PlanStep = Type.Object(
	{
		/** Of the plan: 0 is today. */
		day: Type.Integer(),
		kind: oneOf(STEP_KINDS),
		parameter: Type.Optional(Type.String()),
		supplement: Type.Optional(Type.String()),
		/** mL or g a day; of salt g, of fresh water and changes L. */
		amount: Type.Optional(Type.Number()),
		unit: Type.Optional(oneOf(['mL', 'g', 'L', 'mL/day'])),
		portions: Type.Optional(Type.Integer()),
		/** Calcium and alkalinity are hours apart: one in the morning, one in the evening. */
		when: Type.Optional(oneOf(['morning', 'evening'])),
		fraction: Type.Optional(Type.Number()),
		/** What it changes, by parameter, in own units. */
		changes: Type.Optional(Type.Record(Type.String(), Type.Number())),
		why: oneOf(REASONS)
	},
	exact
);
export type PlanStep = Type.Static<typeof PlanStep>;

export const REFUSALS = [
	'odd',
	'salinity-first',
	'no-supplement',
	'unknown',
	'unproved',
	/** Level, use and dosing pump cannot all be as they are said to be. */
	'contradicts'
] as const;
type Refusal = (typeof REFUSALS)[number];
/** Refused for want of knowledge: nothing is poured for it, nor anything that moves it beside, until it is tested. */
export const NOT_KNOWN: readonly Refusal[] = ['odd', 'unproved', 'unknown', 'contradicts'];
const RISKS = [
	/** It leaves an alarm whatever is done within what animals take. */
	'alarm',
	/** More or less than is left of a bottle. */
	'stock',
	/** More portions than can be poured by hand. */
	'pour',
	/** Saturation near the bound. */
	'saturation',
	/** The net volume is known so badly that pours are kept small. */
	'volume',
	/** Sea salt grows by what is left behind. */
	'salt-creep',
	/** A glass that was moved does not go in whole on its new day. */
	'moved',
	/** A level leaves its band, or ends below it beside a bottle that brings it. */
	'band'
] as const;

export const CorrectResult = Type.Object(
	{
		steps: Type.Array(PlanStep),
		/** Levels at the start of each day, as the plan expects them; `sd` with what tests on the way will tell. */
		path: Type.Record(
			Type.String(),
			Type.Array(Type.Object({ day: Type.Integer(), mean: Type.Number(), sd: Type.Number() }, exact))
		),
		/** Day from which a level is in its band; null: not within the plan. */
		home: Type.Record(Type.String(), Type.Union([Type.Integer(), Type.Null()])),
		refused: Type.Array(Type.Object({ parameter: Type.String(), why: oneOf(REFUSALS) }, exact)),
		risks: Type.Array(
			Type.Object(
				{
					kind: oneOf(RISKS),
					day: Type.Integer(),
					parameter: Type.Optional(Type.String()),
					supplement: Type.Optional(Type.String()),
					numbers: Type.Record(Type.String(), Type.Number())
				},
				exact
			)
		),
		/** False where a plan would leave alarms because of what it does or cannot do: then nothing of it is to be done but its tests. */
		safe: Type.Boolean(),
		cost: Type.Object(
			{
				money: Type.Number(),
				pours: Type.Integer(),
				/** By supplement, mL or g. */
				amounts: Type.Record(Type.String(), Type.Number()),
				waterL: Type.Number(),
				/** Days on which some parameter is out of its band. */
				daysOut: Type.Integer()
			},
			exact
		),
		/** That no better plan exists, within a hundredth; false where time ended the search. */
		proved: Type.Boolean()
	},
	exact
);
export type CorrectResult = Type.Static<typeof CorrectResult>;
/** The plan where nothing is to be planned for. */
export const NO_PLAN: CorrectResult = {
	steps: [],
	path: {},
	home: {},
	refused: [],
	risks: [],
	safe: true,
	cost: { money: 0, pours: 0, amounts: {}, waterL: 0, daysOut: 0 },
	proved: true
};
