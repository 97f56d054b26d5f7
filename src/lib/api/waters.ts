import Type from 'typebox';
import type { WatersResult } from '../../core/quality';

const exact = { additionalProperties: false } as const;

/** Two waters of a tank by id; a is the tank's own, and b sea water, where nothing is said. */
export const WatersQuery = Type.Object(
	{
		a: Type.Optional(Type.String({ format: 'uuid' })),
		b: Type.Optional(Type.String({ format: 'uuid' }))
	},
	exact
);
export type WatersQuery = Type.Static<typeof WatersQuery>;

/** What was read last of two waters, level by level. In own units. */
export interface WatersBeside {
	sources: { id: string; kind: string; name: string }[];
	a: string;
	/** Null: reference sea water. */
	b: string | null;
	/** Newest of the readings each rests on. */
	readAt: { a: string | null; b: string | null };
	/** Null where nothing was read that both are known for. */
	result: WatersResult | null;
}
