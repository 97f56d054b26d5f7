import Type from 'typebox';
import { READS_BY } from '../sodium-chloride';
import { exact, error, word, value, above0, moment, Result } from './parts';
import { oneOf } from '../../base';

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
		readsBy: Type.Optional(oneOf(READS_BY))
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

const VERDICTS = ['agrees', 'reads-high', 'reads-low', 'unsure'] as const;
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
		verdict: oneOf(VERDICTS),
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
								rule: Type.Optional(oneOf(RULES))
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

/** What a reference is known to hold, in own units, and until when. */
export const ReferenceContent = Type.Object(
	{
		values: Type.Record(word, Type.Object({ value, standardUncertainty: error }, exact), {
			minProperties: 1,
			maxProperties: 20
		}),
		until: Type.Optional(Type.String({ format: 'date' })),
		/** Sodium chloride is a salinity for instruments of one kind alone. */
		readsBy: Type.Optional(oneOf(READS_BY))
	},
	exact
);
export type ReferenceContent = Type.Static<typeof ReferenceContent>;
