import Type from 'typebox';
import { CHANGE_LIMITS } from './change-limits';

const exact = { additionalProperties: false } as const;

/** How a keeper changes water: what the new water holds (in own units), how much at most and how often, and what a litre costs. */
export const WaterChange = Type.Object(
	{
		water: Type.Record(
			Type.String({ minLength: 1, maxLength: 40 }),
			Type.Number({ minimum: 0, maximum: 1e6 })
		),
		largestFraction: Type.Number(CHANGE_LIMITS.fraction),
		everyDays: Type.Integer(CHANGE_LIMITS.everyDays),
		costPerL: Type.Optional(Type.Number(CHANGE_LIMITS.costPerL))
	},
	exact
);
export type WaterChange = Type.Static<typeof WaterChange>;
