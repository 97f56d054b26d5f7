import Type from 'typebox';

const exact = { additionalProperties: false } as const;

/** How a keeper changes water: what the new water holds (in own units), how much at most and how often, and what a litre costs. */
export const WaterChange = Type.Object(
	{
		water: Type.Record(
			Type.String({ minLength: 1, maxLength: 40 }),
			Type.Number({ minimum: 0, maximum: 1e6 })
		),
		largestFraction: Type.Number({ minimum: 0.01, maximum: 0.9 }),
		everyDays: Type.Integer({ minimum: 1, maximum: 60 }),
		costPerL: Type.Optional(Type.Number({ minimum: 0, maximum: 1000 }))
	},
	exact
);
export type WaterChange = Type.Static<typeof WaterChange>;
