import Type from 'typebox';
import { READS_BY } from './sodium-chloride';

const exact = { additionalProperties: false } as const;
const error = Type.Number({ minimum: 0, maximum: 1e6 });

export const RepeatsRequest = Type.Object(
	{
		/** Several readings of one sample by one kit, in one unit; errors are standard uncertainties. */
		readings: Type.Array(
			Type.Object(
				{
					value: Type.Number({ minimum: -1e6, maximum: 1e6 }),
					standardUncertainty: Type.Optional(error),
					/** What changes from reading to reading, and what stays with the kit. */
					repeatability: Type.Number({ exclusiveMinimum: 0, maximum: 1e6 }),
					/** How much of that is the step of its scale: what rounding does to all of them alike counts once. */
					quantisation: Type.Optional(error),
					trueness: error
				},
				exact
			),
			{ minItems: 1, maxItems: 200 }
		)
	},
	exact
);
export type RepeatsRequest = Type.Static<typeof RepeatsRequest>;

export const RepeatsResult = Type.Object(
	{
		mean: Type.Object(
			{ value: Type.Number(), standardUncertainty: error, repeatability: error, trueness: error },
			exact
		),
		/** Whether they differ by no more than their own scatter explains. */
		agree: Type.Boolean(),
		/** Chance that scatter alone makes them differ as much. */
		chance: Type.Number(),
		/** Those that do not fit the others, by place; of two, both. */
		apart: Type.Array(Type.Integer()),
		next: Type.Unsafe<'stop' | 'repeat'>({ type: 'string', enum: ['stop', 'repeat'] }),
		/** What one more reading would make of the error, and by which share it would fall. */
		gain: Type.Object({ standardUncertainty: error, share: Type.Number() }, exact)
	},
	exact
);
export type RepeatsResult = Type.Static<typeof RepeatsResult>;

const word = Type.String({ minLength: 1, maxLength: 40 });
const value = Type.Number({ minimum: -1e6, maximum: 1e6 });
const above0 = Type.Number({ exclusiveMinimum: 0, maximum: 1e6 });
const moment = Type.String({ format: 'date-time' });
const Result = { value: Type.Number(), standardUncertainty: error };
const oneOf = <T extends string>(...names: readonly T[]) =>
	Type.Unsafe<T>({ type: 'string', enum: [...names] });

/** One test of water whose content is known: what changes from test to test, and all of its error. */
const Test = Type.Object(
	{
		at: moment,
		value,
		standardUncertainty: Type.Optional(error),
		repeatability: above0,
		/** How much of that is the step of its scale; where it is left out, values that come again tell. */
		quantisation: Type.Optional(error),
		pack: Type.Optional(Type.String({ maxLength: 80 })),
		person: Type.Optional(Type.String({ maxLength: 80 }))
	},
	exact
);
export type ReferenceTest = Type.Static<typeof Test>;

/** Salt that was weighed into water: what is in a litre follows from its formula. Errors are standard uncertainties. */
export const Weighed = Type.Object(
	{
		/** A formula such as `KCl`. */
		salt: word,
		grams: above0,
		gramsError: Type.Optional(error),
		litres: above0,
		litresError: Type.Optional(error),
		/** Mass share. */
		purity: Type.Optional(Type.Number({ exclusiveMinimum: 0, maximum: 1 })),
		/** For salinity by sodium chloride: what the instrument under test goes by. */
		readsBy: Type.Optional(oneOf(...READS_BY))
	},
	exact
);
export type Weighed = Type.Static<typeof Weighed>;

export const ReferenceRequest = Type.Object(
	{
		/** What the water holds, by its label or by the salt that was weighed in. */
		reference: Type.Optional(
			Type.Object(
				{
					parameter: word,
					unit: word,
					value: Type.Optional(value),
					standardUncertainty: Type.Optional(error),
					weighed: Type.Optional(Weighed)
				},
				exact
			)
		),
		tests: Type.Optional(Type.Array(Test, { minItems: 1, maxItems: 500 })),
		/** What the kit may be off by before anything was proved, as a standard uncertainty. */
		prior: Type.Optional(Type.Object({ trueness: above0 }, exact)),
		/** Instead of a known water: the same water plain and with a known amount added. */
		addition: Type.Optional(
			Type.Object(
				{
					plain: Type.Array(Test, { minItems: 1, maxItems: 100 }),
					spiked: Type.Array(Test, { minItems: 1, maxItems: 100 }),
					added: Type.Object({ value: above0, standardUncertainty: error }, exact)
				},
				exact
			)
		)
	},
	exact
);
export type ReferenceRequest = Type.Static<typeof ReferenceRequest>;

export const VERDICTS = ['agrees', 'reads-high', 'reads-low', 'unsure'] as const;
export type Verdict = (typeof VERDICTS)[number];
/** Western Electric 1956: one beyond three sigma; two of three beyond two; four of five beyond one; eight on one side. */
export const RULES = [
	'one-beyond-3',
	'two-of-three-beyond-2',
	'four-of-five-beyond-1',
	'eight-on-one-side'
] as const;
export type Rule = (typeof RULES)[number];

export const ReferenceResult = Type.Object(
	{
		/** What the water holds, with its error. */
		known: Type.Optional(Type.Object(Result, exact)),
		/** What the kit reads more than is there. */
		bias: Type.Optional(Type.Object(Result, exact)),
		/** ISO 13528: the difference over both stated uncertainties. */
		zeta: Type.Optional(Type.Number()),
		verdict: oneOf(...VERDICTS),
		/** Tests in all until a bias as large as the kit allows itself would be seen; null: this reference cannot tell, however often. */
		testsToTell: Type.Optional(Type.Union([Type.Integer(), Type.Null()])),
		/** Of a reading as it is read, before and after; and once the bias is taken off. */
		trueness: Type.Optional(
			Type.Object({ before: error, after: error, corrected: error, bias: Type.Number() }, exact)
		),
		control: Type.Optional(
			Type.Object(
				{
					centre: Type.Number(),
					sigma: Type.Number(),
					warning: Type.Tuple([Type.Number(), Type.Number()]),
					action: Type.Tuple([Type.Number(), Type.Number()]),
					points: Type.Array(
						Type.Object(
							{
								at: Type.String(),
								value: Type.Number(),
								/** In sigma of what was to be expected of it by those before. */
								z: Type.Number(),
								rule: Type.Optional(oneOf(...RULES))
							},
							exact
						)
					)
				},
				exact
			)
		),
		ewma: Type.Optional(
			Type.Object(
				{
					/** In sigma, with the limit at each point. */
					points: Type.Array(
						Type.Object(
							{ at: Type.String(), z: Type.Number(), limit: Type.Number(), out: Type.Boolean() },
							exact
						)
					),
					out: Type.Boolean()
				},
				exact
			)
		),
		/** From a batch's first check to its last; where nothing tells of ageing it is null. */
		ageing: Type.Optional(
			Type.Union([
				Type.Object({ ...Result, from: Type.String(), to: Type.String(), chance: Type.Number() }, exact),
				Type.Null()
			])
		),
		/** What share of an added amount was found. */
		recovery: Type.Optional(Type.Object(Result, exact))
	},
	exact
);
export type ReferenceResult = Type.Static<typeof ReferenceResult>;

const Side = Type.Object(
	{ value, standardUncertainty: error, repeatability: above0, quantisation: Type.Optional(error) },
	exact
);
export const CompareRequest = Type.Object(
	{
		/** The same water by two kits, in one unit. */
		pairs: Type.Array(Type.Object({ a: Side, b: Side, at: Type.Optional(moment) }, exact), {
			minItems: 1,
			maxItems: 500
		}),
		/** What the water holds, where somebody knows. */
		known: Type.Optional(Type.Object({ value, standardUncertainty: error }, exact))
	},
	exact
);
export type CompareRequest = Type.Static<typeof CompareRequest>;

export const DIFFERENCES = [
	/** Scatter alone makes them differ as much. */
	'no-difference',
	/** More than scatter, and no more than both kits allow themselves. */
	'kits-differ',
	/** More than both allow themselves: at least one is off. */
	'one-is-off'
] as const;
export const CompareResult = Type.Object(
	{
		/** b is taken from a. */
		difference: Type.Object({ ...Result, interval: Type.Tuple([Type.Number(), Type.Number()]) }, exact),
		/** Chance that scatter from test to test alone makes as much, and that all that the kits allow themselves does. */
		chance: Type.Object({ scatter: Type.Number(), kits: Type.Number() }, exact),
		verdict: oneOf(...DIFFERENCES),
		/** Where 95 % of single differences lie (Bland & Altman 1986), each limit with its error; from three pairs on. */
		limits: Type.Optional(
			Type.Object({ lower: Type.Number(), upper: Type.Number(), standardUncertainty: error }, exact)
		),
		/** b as a line of a (York 2004); from six pairs on that do not lie on one spot. */
		line: Type.Optional(
			Type.Object(
				{
					slope: Type.Object(Result, exact),
					intercept: Type.Object(Result, exact),
					/** Chance that points about a line of slope 1 through nought scatter as much. */
					chance: Type.Number()
				},
				exact
			)
		),
		/** Pairs in all until a difference as large as this one is told from scatter; null: there is none. */
		pairsToTell: Type.Union([Type.Integer(), Type.Null()]),
		/** What tells which is right: one more pair, a reference, or nothing that is needed. */
		next: oneOf('repeat', 'reference', 'nothing'),
		/** Beside what is known: zeta of each, and who agrees with it. */
		known: Type.Optional(
			Type.Object(
				{ zetaA: Type.Number(), zetaB: Type.Number(), agrees: oneOf('a', 'b', 'both', 'neither') },
				exact
			)
		)
	},
	exact
);
export type CompareResult = Type.Static<typeof CompareResult>;

export const ScorecardRequest = Type.Object(
	{
		methods: Type.Array(
			Type.Object(
				{
					id: Type.String({ minLength: 1, maxLength: 80 }),
					/** Of each time it was done at the bench, s. */
					times: Type.Optional(
						Type.Array(Type.Object({ hands: error, wait: error }, exact), { maxItems: 5000 })
					),
					pack: Type.Optional(Type.Object({ tests: above0, price: error }, exact)),
					/** All of a reading's error, in the parameter's unit. */
					errors: Type.Optional(Type.Array(error, { maxItems: 5000 })),
					/** Twice the same water, with what one test should scatter by. */
					duplicates: Type.Optional(
						Type.Array(Type.Object({ a: value, b: value, repeatability: above0 }, exact), { maxItems: 5000 })
					),
					/** Slips that were asked about, and that the keeper admitted. */
					slips: Type.Optional(
						Type.Object(
							{
								readings: Type.Integer({ minimum: 0 }),
								asked: Type.Integer({ minimum: 0 }),
								admitted: Type.Integer({ minimum: 0 })
							},
							exact
						)
					),
					bias: Type.Optional(Type.Object({ value, standardUncertainty: error }, exact)),
					/** Readings of water of known content that an eye and a photograph both made of the same vial. */
					seen: Type.Optional(
						Type.Array(Type.Object({ truth: value, camera: value, eye: value }, exact), { maxItems: 5000 })
					)
				},
				exact
			),
			{ minItems: 1, maxItems: 50 }
		)
	},
	exact
);
export type ScorecardRequest = Type.Static<typeof ScorecardRequest>;

export const ScorecardResult = Type.Object(
	{
		methods: Type.Array(
			Type.Object(
				{
					id: Type.String(),
					/** The middle of what it took, s. */
					hands: Type.Optional(error),
					wait: Type.Optional(error),
					cost: Type.Optional(error),
					/** The middle of its readings' errors. */
					standardUncertainty: Type.Optional(error),
					/** From duplicates: what one test scatters by, its 95 % interval, and beside what was stated. */
					scatter: Type.Optional(
						Type.Object(
							{
								value: error,
								interval: Type.Tuple([error, error]),
								pairs: Type.Integer(),
								ratio: Type.Number(),
								chance: Type.Number()
							},
							exact
						)
					),
					slips: Type.Optional(Type.Object({ asked: Type.Number(), admitted: Type.Number() }, exact)),
					bias: Type.Optional(Type.Object({ ...Result, chance: Type.Number() }, exact)),
					/** Eye against photograph: what each was off by (root mean square), how often the photograph was nearer, and by what chance it would be as often if both were as good. */
					seeing: Type.Optional(
						Type.Object(
							{
								readings: Type.Integer(),
								camera: error,
								eye: error,
								cameraNearer: Type.Integer(),
								chance: Type.Number(),
								better: Type.Unsafe<'camera' | 'eye' | 'unsure'>({
									type: 'string',
									enum: ['camera', 'eye', 'unsure']
								})
							},
							exact
						)
					)
				},
				exact
			)
		),
		/** Which is the surest, the quickest and the cheapest, by id; none where only one is known. */
		surest: Type.Optional(Type.String()),
		quickest: Type.Optional(Type.String()),
		cheapest: Type.Optional(Type.String())
	},
	exact
);
export type ScorecardResult = Type.Static<typeof ScorecardResult>;

const Levels = Type.Record(word, Type.Object({ value, standardUncertainty: error }, exact), {
	minProperties: 1,
	maxProperties: 20
});
export const WatersRequest = Type.Object(
	{
		/** Levels in the parameters' own units. */
		a: Levels,
		/** Another water; left out: reference sea water at a's own salinity, or at 35 PSU where it is not known. */
		b: Type.Optional(Levels)
	},
	exact
);
export type WatersRequest = Type.Static<typeof WatersRequest>;
export const WatersResult = Type.Object(
	{
		/** What b is taken to hold. */
		against: oneOf('other', 'sea water'),
		salinity: Type.Number(),
		/** Nobody said its salinity: it is taken for the sea's own. */
		assumed: Type.Boolean(),
		differences: Type.Record(
			word,
			Type.Object({ a: Type.Number(), b: Type.Number(), ...Result, chance: Type.Number() }, exact)
		)
	},
	exact
);
export type WatersResult = Type.Static<typeof WatersResult>;

/** What a reference is known to hold, in own units, and until when. */
export const ReferenceContent = Type.Object(
	{
		values: Type.Record(word, Type.Object({ value, standardUncertainty: error }, exact), {
			minProperties: 1,
			maxProperties: 20
		}),
		until: Type.Optional(Type.String({ format: 'date' })),
		/** Sodium chloride is a salinity for instruments of one kind alone. */
		readsBy: Type.Optional(oneOf(...READS_BY))
	},
	exact
);
export type ReferenceContent = Type.Static<typeof ReferenceContent>;
