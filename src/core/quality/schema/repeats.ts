import Type from 'typebox';
import { exact, error } from './parts';

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
