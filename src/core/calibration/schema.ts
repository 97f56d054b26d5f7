import Type from 'typebox';
import { Table } from '../instruments';
import { oneOf } from '../base';

const exact = { additionalProperties: false } as const;
const number = Type.Number({ minimum: -1e6, maximum: 1e6 });

export const ChartRequest = Type.Object(
	{
		parameter: Type.String({ minLength: 1, maxLength: 40 }),
		unit: Type.String({ minLength: 1, maxLength: 40 }),
		reads: Type.Unsafe<'syringe' | 'drops'>({ type: 'string', enum: ['syringe', 'drops'] }),
		points: Type.Array(Type.Tuple([number, number]), { minItems: 2, maxItems: 500 }),
		/** Lines, by their place, that were looked at again and stand so on the leaflet: none of them is left out. */
		sure: Type.Optional(Type.Array(Type.Integer({ minimum: 0 }), { maxItems: 500 })),
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

const ASKS = [
	/** One column stands a row higher or lower than the other, from a line on or from the first. */
	'row-shift',
	/** Decimal points are gone. */
	'points-lost',
	/** Readings stand where values should. */
	'columns',
	/** The values are of another unit. */
	'unit',
	/** A mark of thousands was taken for a decimal mark. */
	'thousands',
	/** More titrant means less where it meant more. */
	'turns-back',
	/** With nothing used there is something. */
	'offset',
	/** The chart's end is a level that no water has. */
	'range'
] as const;
export const ChartAsk = Type.Object(
	{
		kind: oneOf(ASKS),
		/** The line it begins with, counted from 0. */
		index: Type.Optional(Type.Integer()),
		/** The value in question: at the chart's end, or with nothing used. */
		value: Type.Optional(Type.Number()),
		/** The unit that would fit. */
		unit: Type.Optional(Type.String())
	},
	exact
);
export type ChartAsk = Type.Static<typeof ChartAsk>;

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
		suspects: Type.Array(Type.Object({ index: Type.Integer(), expected: Type.Number() }, exact)),
		/** What the chart as a whole is asked about before it counts. */
		asks: Type.Array(ChartAsk)
	},
	exact
);
export type ChartResult = Type.Static<typeof ChartResult>;
