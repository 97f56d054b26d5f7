import Type from 'typebox';
import { exact, error, value, above0, moment, Result } from './parts';
import { oneOf } from '../../base';

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

const DIFFERENCES = [
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
		verdict: oneOf(DIFFERENCES),
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
		next: oneOf(['repeat', 'reference', 'nothing']),
		/** Beside what is known: zeta of each, and who agrees with it. */
		known: Type.Optional(
			Type.Object(
				{ zetaA: Type.Number(), zetaB: Type.Number(), agrees: oneOf(['a', 'b', 'both', 'neither']) },
				exact
			)
		)
	},
	exact
);
export type CompareResult = Type.Static<typeof CompareResult>;
