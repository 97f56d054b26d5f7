import Type from 'typebox';
import { Table } from '../methods';

const exact = { additionalProperties: false } as const;
const number = Type.Number({ minimum: -1e6, maximum: 1e6 });

export const ChartRequest = Type.Object(
	{
		parameter: Type.String({ minLength: 1, maxLength: 40 }),
		unit: Type.String({ minLength: 1, maxLength: 40 }),
		reads: Type.Unsafe<'syringe' | 'drops'>({ type: 'string', enum: ['syringe', 'drops'] }),
		points: Type.Array(Type.Tuple([number, number]), { minItems: 2, maxItems: 500 }),
		/** What the leaflet says its readings are; where it does not, falling values mean what is left. */
		readAs: Type.Optional(Type.Unsafe<'left' | 'used'>({ type: 'string', enum: ['left', 'used'] })),
		syringe: Type.Optional(
			Type.Object(
				{
					fillMl: Type.Number({ exclusiveMinimum: 0, maximum: 100 }),
					graduationMl: Type.Optional(Type.Number({ exclusiveMinimum: 0, maximum: 10 }))
				},
				exact
			)
		)
	},
	exact
);
export type ChartRequest = Type.Static<typeof ChartRequest>;

const Linear = Type.Object(
	{
		kind: Type.Literal('linear'),
		perMl: Type.Optional(Type.Number()),
		perDrop: Type.Optional(Type.Number()),
		atZero: Type.Number()
	},
	exact
);

export const ChartResult = Type.Object(
	{
		scale: Type.Union([Linear, Table]),
		linear: Type.Boolean(),
		/** Syringes: what the chart goes by. */
		readAs: Type.Optional(Type.Unsafe<'left' | 'used'>({ type: 'string', enum: ['left', 'used'] })),
		perMl: Type.Optional(Type.Number()),
		perDrop: Type.Optional(Type.Number()),
		/** Step to which the chart's values are rounded. */
		rounding: Type.Number(),
		/** Largest distance of an unsuspected line from the fit, in the value's unit. */
		worstResidual: Type.Number(),
		suspects: Type.Array(Type.Object({ index: Type.Integer(), expected: Type.Number() }, exact))
	},
	exact
);
export type ChartResult = Type.Static<typeof ChartResult>;
