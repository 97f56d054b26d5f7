import Type from 'typebox';
import { amount, common, eitherScale, endPoint, exact, value } from '../profile-parts';
import { dilution, few, hand, tag, type Tagged } from '../reading-parts';

const perDropScale = Type.Object(
	{ kind: Type.Literal('linear'), perDrop: amount(1e6), atZero: Type.Optional(value) },
	exact
);

export const DropsMethod = Type.Object(
	{
		...common,
		reads: Type.Literal('drops'),
		/** Whether a drop added after the colour had turned is part of the kit's count. */
		countConfirming: Type.Optional(Type.Boolean()),
		endPoint,
		scale: eitherScale(perDropScale)
	},
	exact
);
export type DropsMethod = Type.Static<typeof DropsMethod>;

export const ByDrops = Type.Object(
	{
		reads: tag('drops'),
		drops: Type.Integer({ minimum: 0, maximum: 10_000 }),
		confirming: few,
		doubtful: few,
		dilution,
		hand
	},
	exact
);

export type DropsReading = Tagged<Type.Static<typeof ByDrops>>;
