import Type from 'typebox';
import { oneOf } from '../../base';
import { amount, common, eitherScale, endPoint, exact, value } from '../profile-parts';
import { dilution, hand, seen, seenOrBetween, tag, type Tagged } from '../reading-parts';

const perMlScale = Type.Object(
	{ kind: Type.Literal('linear'), perMl: amount(1e6), atZero: Type.Optional(value) },
	exact
);

export const SyringeMethod = Type.Object(
	{
		...common,
		reads: Type.Literal('syringe'),
		syringe: Type.Object(
			{ fillMl: amount(100), graduationMl: amount(10), readAs: oneOf(['left', 'used']) },
			exact
		),
		endPoint,
		scale: eitherScale(perMlScale)
	},
	exact
);
export type SyringeMethod = Type.Static<typeof SyringeMethod>;

/** What a photograph of a syringe said: mL left by the plunger's edge, whatever was kept in the end. */
export const PlungerSeen = Type.Object(
	{ left: seen, standardUncertainty: Type.Number({ minimum: 0, maximum: 100 }) },
	exact
);
export type PlungerSeen = Type.Static<typeof PlungerSeen>;

const reads = tag('syringe');
const refills = Type.Optional(Type.Integer({ minimum: 0, maximum: 50 }));
export const ByLeft = Type.Object(
	{ reads, left: seenOrBetween, refills, dilution, camera: Type.Optional(PlungerSeen), hand },
	exact
);
export const ByUsed = Type.Object(
	{ reads, used: seenOrBetween, refills, dilution, camera: Type.Optional(PlungerSeen), hand },
	exact
);

/** By what is left in the syringe, or by what was used of it; either may lie between two lines. */
export type SyringeReading = Tagged<Type.Static<typeof ByLeft> | Type.Static<typeof ByUsed>>;
