import Type from 'typebox';
import { MOST_EFFORT } from './effort';

const exact = { additionalProperties: false } as const;
/** Seconds; a week is the longest anything at the bench lasts. */
const seconds = Type.Number({ minimum: 0, maximum: 604_800 });
const name = Type.String({ minLength: 1, maxLength: 120 });
const count = (maximum: number) => Type.Integer({ minimum: 0, maximum });

export const BenchStep = Type.Object(
	{
		label: Type.String({ maxLength: 400 }),
		/** How long it keeps a person busy. */
		hands: seconds,
		/** Between its end and the next step's start: at least `wait`, at most `wait + within` (left out: any time later). */
		then: Type.Optional(Type.Object({ wait: seconds, within: Type.Optional(seconds) }, exact)),
		/** Things it occupies from its start to the next step's start, of the last step to its end. */
		uses: Type.Optional(Type.Array(name, { maxItems: 8 }))
	},
	exact
);
export type BenchStep = Type.Static<typeof BenchStep>;

export const BenchTest = Type.Object(
	{
		id: name,
		steps: Type.Array(BenchStep, { minItems: 1, maxItems: 60 }),
		/** Tests that are over before this one begins. */
		after: Type.Optional(Type.Array(name, { maxItems: 40 }))
	},
	exact
);
export type BenchTest = Type.Static<typeof BenchTest>;

/** A step that has begun; without `end` it is still in someone's hands. Seconds from the session's start. */
export const Done = Type.Object(
	{ test: name, step: count(59), start: seconds, end: Type.Optional(seconds) },
	exact
);
export type Done = Type.Static<typeof Done>;

export const BenchRequest = Type.Object(
	{
		tests: Type.Array(BenchTest, { minItems: 1, maxItems: 40 }),
		/** How many there are of each thing that steps use; one where it is not said. */
		equipment: Type.Optional(Type.Record(name, count(40))),
		people: Type.Optional(Type.Integer({ minimum: 1, maximum: 4 })),
		/** The instant that second 0 stands for; only passed through. */
		startedAt: Type.Optional(Type.String({ format: 'date-time' })),
		/** What has happened; the rest is planned from `now` (seconds; the last thing that happened where left out). */
		done: Type.Optional(Type.Array(Done, { maxItems: 2400 })),
		now: Type.Optional(seconds),
		/** Tests that are to begin in this order. */
		order: Type.Optional(Type.Array(name, { maxItems: 40 })),
		/** Among the shortest plans: fewest switches between tests (where left out), or nothing put off that can be done now. */
		prefer: Type.Optional(
			Type.Unsafe<'fewest switches' | 'early'>({ type: 'string', enum: ['fewest switches', 'early'] })
		),
		/** How many partial plans may be looked at before the best so far is given; left out, as many as may be. */
		effort: Type.Optional(Type.Integer({ minimum: 1, maximum: MOST_EFFORT }))
	},
	exact
);
export type BenchRequest = Type.Static<typeof BenchRequest>;

export const PlannedStep = Type.Object(
	{ test: name, step: count(59), start: Type.Number(), end: Type.Number() },
	exact
);
export type PlannedStep = Type.Static<typeof PlannedStep>;

export const BenchResult = Type.Object(
	{
		/** In order of their starts, what has happened first. */
		steps: Type.Array(PlannedStep),
		/** When the last step ends. */
		makespan: Type.Number(),
		/** No plan can end earlier. */
		lowerBound: Type.Number(),
		/** The same tests, each begun when the one before is over. */
		oneAfterAnother: Type.Number(),
		/** How often the hands go from one test to another. */
		switches: Type.Integer(),
		/** Whether no plan can end earlier than this one. */
		proved: Type.Boolean(),
		startedAt: Type.Optional(Type.String())
	},
	exact
);
export type BenchResult = Type.Static<typeof BenchResult>;
