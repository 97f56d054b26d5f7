import Type from 'typebox';
import { CAUTIONS, type Caution } from './salts';
import { oneOf } from '../base';

/**
 * `tevrik.supplement/1`: something that is poured to move the water, as keepers share it in a file. Amounts in mL of a solution
 * or g of a powder; errors are standard uncertainties.
 */

const exact = { additionalProperties: false } as const;
const name = Type.String({ minLength: 1, maxLength: 120 });
const above0 = (maximum: number) => Type.Number({ exclusiveMinimum: 0, maximum });

export const Recipe = Type.Object(
	{
		/** As a formula with its water: CaCl2.2H2O. */
		salt: Type.String({ minLength: 2, maxLength: 40 }),
		/** g of it in a litre of finished solution; left out for a powder, and for a saturated solution. */
		gramsPerL: Type.Optional(above0(2000)),
		/** Share of it that is the salt; where left out all of it, or as an opened bag of a salt that draws water (`DAMP`). */
		purity: Type.Optional(Type.Number({ exclusiveMinimum: 0, maximum: 1 }))
	},
	exact
);
export type Recipe = Type.Static<typeof Recipe>;

export const Label = Type.Object(
	{
		/** “1 mL in 100 L raises 0.25 dKH”. */
		amount: above0(1e6),
		unit: oneOf(['mL', 'g']),
		waterL: above0(1e6),
		/** As the bottle says it, in the keeper's typing: what the numbers were read from. */
		sentence: Type.Optional(Type.String({ maxLength: 300 })),
		raises: Type.Object(
			{
				parameter: Type.String({ minLength: 1, maxLength: 40 }),
				value: above0(1e5),
				unit: Type.String({ minLength: 1, maxLength: 40 })
			},
			exact
		)
	},
	exact
);
export type Label = Type.Static<typeof Label>;

export const Supplement = Type.Object(
	{
		format: Type.Literal('tevrik.supplement/1'),
		id: Type.String({ minLength: 1, maxLength: 80 }),
		name,
		kind: oneOf(['solution', 'powder', 'saturated']),
		composition: Type.Union([
			Type.Object({ recipe: Type.Union([Recipe, Type.Array(Recipe, { minItems: 1, maxItems: 8 })]) }, exact),
			Type.Object({ label: Label }, exact)
		]),
		/** Of its strength, as a share; how well label or scale are believed where left out. */
		relativeError: Type.Optional(Type.Number({ minimum: 0, maximum: 0.5 })),
		/** What it does to pH where only its label is known. */
		ph: Type.Optional(oneOf(['raises', 'lowers', 'neutral'])),
		cautions: Type.Optional(Type.Array(oneOf<Caution>(CAUTIONS), { maxItems: 10 })),
		/** g in a level spoon of it: ten of them on a scale, and a tenth of that. */
		spoonG: Type.Optional(above0(500)),
		/** What a mL or g costs, in the keeper's money. */
		pricePerUnit: Type.Optional(Type.Number({ minimum: 0, maximum: 1e5 })),
		note: Type.Optional(Type.String({ maxLength: 500 }))
	},
	exact
);
export type Supplement = Type.Static<typeof Supplement>;
