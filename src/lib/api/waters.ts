import Type from 'typebox';
import { WatersResult } from '../../core/quality';
import { exact, id, moment, orNull } from './parts';

/** Two waters of a tank by id; a is the tank's own, and b sea water, where nothing is said. */
export const WatersQuery = Type.Object(
	{
		a: Type.Optional(id),
		b: Type.Optional(id)
	},
	exact
);
export type WatersQuery = Type.Static<typeof WatersQuery>;

/** What was read last of two waters, level by level. In own units. */
export const WatersBeside = Type.Object(
	{
		sources: Type.Array(Type.Object({ id, kind: Type.String(), name: Type.String() }, exact)),
		a: id,
		/** Null: reference sea water. */
		b: orNull(id),
		/** Newest of the readings each rests on. */
		readAt: Type.Object({ a: orNull(moment), b: orNull(moment) }, exact),
		/** Null where nothing was read that both are known for. */
		result: orNull(WatersResult)
	},
	exact
);
export type WatersBeside = Type.Static<typeof WatersBeside>;
