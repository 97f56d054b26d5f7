import Type from 'typebox';
import { oneOf } from '../base';
import { CONSTANTS_HOLD } from '../seawater';
import { AFTER_POUR } from './pour';
import { CAUTIONS } from './salts';
import { Supplement } from './supplement';

const exact = { additionalProperties: false } as const;
const above0 = Type.Number({ exclusiveMinimum: 0, maximum: 1e7 });
const error = Type.Number({ minimum: 0, maximum: 1e7 });
const word = Type.String({ minLength: 1, maxLength: 40 });

export const Volume = Type.Object({ value: above0, standardUncertainty: error }, exact);

export const DoseRequest = Type.Object(
	{
		supplement: Supplement,
		/** Net, L. */
		volume: Volume,
		/** What the level should change by; or `amount`. */
		change: Type.Optional(Type.Object({ parameter: word, value: above0, unit: word }, exact)),
		/** mL of a solution, g of a powder. */
		amount: Type.Optional(above0),
		/** The most a day animals take, in the parameter's own unit; what schools share where left out. */
		healthyPerDay: Type.Optional(above0),
		/** mL or g left, and what goes a day, for how long it lasts. */
		stock: Type.Optional(error),
		usedPerDay: Type.Optional(error),
		/** For what becomes of pH and saturation. */
		water: Type.Optional(
			Type.Object(
				{
					salinity: Type.Number({ minimum: CONSTANTS_HOLD.from, maximum: CONSTANTS_HOLD.to }),
					temperatureC: Type.Number({ minimum: 0, maximum: 40 }),
					ph: Type.Number(AFTER_POUR.ph),
					alkalinity: Type.Number(AFTER_POUR.alkalinity),
					calcium: Type.Number(AFTER_POUR.calcium)
				},
				exact
			)
		)
	},
	exact
);
export type DoseRequest = Type.Static<typeof DoseRequest>;

const Measured = { value: Type.Number(), standardUncertainty: Type.Number(), unit: Type.String() };
export const DoseResult = Type.Object(
	{
		amount: Type.Object(Measured, exact),
		change: Type.Object({ parameter: Type.String(), ...Measured }, exact),
		/** What else it does: parameters in their own units; sodium, chloride and sulphate in mg/L. */
		sideEffects: Type.Array(
			Type.Object({ parameter: Type.String(), value: Type.Number(), unit: Type.String() }, exact)
		),
		/** Days it has to be spread over, and how much on each. */
		days: Type.Integer(),
		perDay: Type.Number(),
		/** Portions a day, hours apart; null: more than can be poured by hand, let a dosing pump or a drip do it. */
		portions: Type.Union([Type.Integer(), Type.Null()]),
		/** Right after one portion has mixed, before the water breathes. */
		afterPortion: Type.Optional(Type.Object({ ph: Type.Number(), omegaAragonite: Type.Number() }, exact)),
		/** Days the bottle lasts; null where stock or use are not known, or nothing is used. */
		lastsDays: Type.Union([Type.Number(), Type.Null()]),
		cost: Type.Union([Type.Number(), Type.Null()]),
		cautions: Type.Array(oneOf(CAUTIONS))
	},
	exact
);
export type DoseResult = Type.Static<typeof DoseResult>;
