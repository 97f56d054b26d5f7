import { parametersWith } from '../catalogue';
import Type from 'typebox';
import { TrendReading, TrendRequest, TrendResult } from './schema';
import { DatedWaterEvent } from './water-events';

const exact = { additionalProperties: false } as const;
const number = Type.Number();
const { band, now, phase, horizonDays } = TrendRequest.properties;

/** Parameters that are one water: what moves one moves the others. */
export const COUPLED: readonly string[] = parametersWith('coupled');

export const TankRequest = Type.Object(
	{
		parameters: Type.Record(
			Type.String({ minLength: 1, maxLength: 40 }),
			Type.Object(
				{
					unit: Type.String({ minLength: 1, maxLength: 40 }),
					readings: Type.Array(TrendReading, { minItems: 1, maxItems: 100_000 }),
					band
				},
				exact
			)
		),
		events: Type.Optional(Type.Array(DatedWaterEvent, { maxItems: 100_000 })),
		now,
		phase,
		horizonDays
	},
	exact
);
export type TankRequest = Type.Static<typeof TankRequest>;

export const TankResult = Type.Object(
	{
		parameters: Type.Record(Type.String(), TrendResult),
		/** Null where no two of the coupled parameters were tested. */
		coupling: Type.Union([
			Type.Null(),
			Type.Object(
				{
					/** Chance that they do move together, as the tests have it. */
					probability: number,
					/** What skeleton and rock take, as alkalinity in dKH a day; null where the tests do not bear out that calcium goes with it. */
					calcification: Type.Union([
						Type.Null(),
						Type.Object({ alkalinityPerDay: number, standardDeviation: number }, exact)
					]),
					/** Calcium and magnesium that go with a dKH of alkalinity, over what skeleton takes of them (7.15 mg/L of calcium: 1). */
					ratio: Type.Object({ value: number, standardDeviation: number }, exact),
					/** Share of its salts that the water gains a day (thinner: below 0). */
					thinning: Type.Object({ perDay: number, standardDeviation: number }, exact),
					/** By which share the error of each parameter's level is smaller than by its own tests. */
					sharpened: Type.Record(Type.String(), number)
				},
				exact
			)
		]),
		/** Tests that fit their own past but not their neighbours, with the chance that they are misreadings or the water moved: test again. */
		suspects: Type.Array(
			Type.Object({ parameter: Type.String(), index: Type.Integer(), probability: number }, exact)
		)
	},
	exact
);
export type TankResult = Type.Static<typeof TankResult>;
