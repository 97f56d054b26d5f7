import Type from 'typebox';
import type { Phase } from '../catalogue';
import { oneOf } from '../base';

const exact = { additionalProperties: false } as const;
const at = Type.String({ format: 'date-time' });
const value = Type.Number({ minimum: -1e6, maximum: 1e6 });
const spread = Type.Number({ minimum: 0, maximum: 1e6 });
const chance = Type.Number({ minimum: 0, maximum: 1 });
const count = Type.Integer({ minimum: 0, maximum: 100_000 });
const name = Type.String({ minLength: 1, maxLength: 40 });
const Estimate = Type.Object(
	{ value, standardDeviation: spread, interval: Type.Optional(Type.Tuple([value, value])) },
	exact
);

/** One test; `ownChart` false: by a chart that is not the keeper's own. */
const Test = Type.Object(
	{
		at,
		value: Type.Optional(value),
		below: Type.Optional(value),
		above: Type.Optional(value),
		interval: Type.Optional(Type.Tuple([value, value])),
		standardUncertainty: Type.Optional(spread),
		method: Type.Optional(Type.String({ maxLength: 120 })),
		ownChart: Type.Optional(Type.Boolean())
	},
	exact
);
export type JudgedTest = Type.Static<typeof Test>;

/** What is known of one parameter, in `unit` (its own unit where left out; targets are always in its own); rates a day, as `trend` gives them. */
export const Known = Type.Object(
	{
		unit: Type.Optional(name),
		now: Estimate,
		netPerDay: Type.Optional(Estimate),
		usePerDay: Type.Optional(Estimate),
		leavesBand: Type.Optional(
			Type.Union([
				Type.Null(),
				Type.Object(
					{
						edge: Type.Unsafe<'lower' | 'upper'>({ type: 'string', enum: ['lower', 'upper'] }),
						median: Type.Union([at, Type.Null()]),
						early: Type.Optional(Type.Union([at, Type.Null()])),
						late: Type.Optional(Type.Union([at, Type.Null()]))
					},
					exact
				)
			])
		),
		moved: Type.Optional(
			Type.Union([
				Type.Null(),
				Type.Object(
					{
						at,
						from: value,
						to: value,
						probability: chance,
						explanation: Type.Unsafe<'level' | 'drift' | 'dosing'>({
							type: 'string',
							enum: ['level', 'drift', 'dosing']
						})
					},
					exact
				)
			])
		),
		/** Tests that may be misreadings, by their place in `tests`. */
		odd: Type.Optional(
			Type.Array(Type.Object({ index: count, probability: chance }, exact), { maxItems: 10_000 })
		),
		/** What was done to it on purpose, as changes in the same unit: doses and water changes that were written down. */
		recorded: Type.Optional(Type.Array(Type.Object({ at, change: value }, exact), { maxItems: 10_000 })),
		/** In any order. */
		tests: Type.Array(Test, { maxItems: 10_000 })
	},
	exact
);
export type Known = Type.Static<typeof Known>;

const JudgedTarget = Type.Object(
	{
		lower: value,
		upper: value,
		ideal: Type.Optional(value),
		alarm: Type.Optional(Type.Tuple([value, value])),
		healthyPerDay: Type.Optional(value)
	},
	exact
);

export const JudgeRequest = Type.Object(
	{
		now: at,
		phase: Type.Unsafe<Phase>({ type: 'string', enum: ['new', 'cycling', 'young', 'settled'] }),
		/** Since when the tank is in its phase. */
		since: Type.Optional(at),
		targets: Type.Record(name, JudgedTarget),
		parameters: Type.Record(name, Known)
	},
	exact
);
export type JudgeRequest = Type.Static<typeof JudgeRequest>;

/** The order in which judgements of one rank are read. */
export const KINDS = [
	'harm',
	'salinity-first',
	'salinity-thick',
	'moved',
	'odd',
	'swing',
	'out',
	'order',
	'unknown',
	'leaves-soon',
	'edge',
	'ratio',
	'long-zero',
	'cycle-over',
	'cycle-waits'
] as const;
export type JudgementKind = (typeof KINDS)[number];

export const Judgement = Type.Object(
	{
		kind: oneOf(KINDS),
		parameter: Type.String(),
		/** 0 harms, 1 acts, 2 watches, 3 is good to know. */
		rank: Type.Unsafe<0 | 1 | 2 | 3>({ type: 'integer', enum: [0, 1, 2, 3] }),
		/** In the parameter's unit; dates as ISO 8601. */
		numbers: Type.Record(Type.String(), Type.Union([Type.Number(), Type.String()])),
		/** Other parameters it is about, in order. */
		also: Type.Optional(Type.Array(Type.String())),
		/** What would help first: another test, or a look at how it came. */
		helps: Type.Unsafe<'test' | 'look'>({ type: 'string', enum: ['test', 'look'] })
	},
	exact
);
export type Judgement = Type.Static<typeof Judgement>;

export const JudgeResult = Type.Object({ judgements: Type.Array(Judgement) }, exact);
export type JudgeResult = Type.Static<typeof JudgeResult>;
