import Type from 'typebox';
import { oneOf } from '../base';
import { LIGHTS, type Light } from '../photograph';

const exact = { additionalProperties: false } as const;
const light = oneOf(Object.keys(LIGHTS) as Light[]);
const word = Type.String({ minLength: 1, maxLength: 40 });
const many = { maxItems: 5000 };

export const TechniqueRequest = Type.Object(
	{
		/** Titrations whose end was known: how far past it they went, in drops of the tip; before it negative. */
		endPoints: Type.Optional(
			Type.Array(
				Type.Object(
					{
						instrument: oneOf(['syringe', 'drops']),
						parameter: word,
						light,
						over: Type.Number({ minimum: -1000, maximum: 1000 })
					},
					exact
				),
				many
			)
		),
		/** Plungers whose place was known: what was said less what it was, in lines of the scale. */
		plungers: Type.Optional(
			Type.Array(Type.Object({ off: Type.Number({ minimum: -1000, maximum: 1000 }) }, exact), many)
		),
		/** Two vials, one deeper by so many patches of its card: whether it was told which. */
		looks: Type.Optional(
			Type.Array(
				Type.Object(
					{
						parameter: word,
						light,
						steps: Type.Number({ exclusiveMinimum: 0, maximum: 100 }),
						right: Type.Boolean()
					},
					exact
				),
				many
			)
		)
	},
	exact
);
export type TechniqueRequest = Type.Static<typeof TechniqueRequest>;

const interval = Type.Tuple([Type.Number(), Type.Number()]);
const Spread = Type.Object(
	{
		tries: Type.Integer(),
		/** Mean, and its standard uncertainty: 1.96 of them hold 95 %. */
		bias: Type.Number(),
		standardUncertainty: Type.Number(),
		/** Standard deviation of one try, and its 95 % interval. */
		scatter: Type.Number(),
		interval,
		/** What one more try may be off by about the bias, told from so few: a standard uncertainty. */
		next: Type.Number(),
		/** Whether there are enough of them to go by. */
		enough: Type.Boolean()
	},
	exact
);
export type Spread = Type.Static<typeof Spread>;
const Eye = Type.Object(
	{
		parameter: Type.String(),
		light: Type.String(),
		looks: Type.Integer(),
		/** Of one comparison, patches. */
		scatter: Type.Number(),
		/** Told three times in four, patches, and its 95 % interval. */
		smallest: Type.Number(),
		interval,
		enough: Type.Boolean()
	},
	exact
);

export const TechniqueResult = Type.Object(
	{
		/** In drops of the tip, by instrument, parameter and light; those with fewer than two tries are left out. */
		endPoints: Type.Array(
			Type.Object(
				{ instrument: Type.String(), parameter: Type.String(), light: Type.String(), ...Spread.properties },
				exact
			)
		),
		/** In lines of the scale. */
		plunger: Type.Union([Spread, Type.Null()]),
		eyes: Type.Array(Eye)
	},
	exact
);
export type TechniqueResult = Type.Static<typeof TechniqueResult>;
