import Type from 'typebox';
import { Supplement } from '../../core/adjust';
import { exact, id, orNull } from './parts';

/** Something to pour, as it stands on its keeper's shelf. */
export const SaveSupplement = Type.Object(
	{
		profile: Supplement,
		/** mL or g there were when it was opened. */
		amount: Type.Optional(Type.Number({ minimum: 0, maximum: 1e7 })),
		opened: Type.Optional(Type.String({ format: 'date' }))
	},
	exact
);
export type SaveSupplement = Type.Static<typeof SaveSupplement>;

/** With what is left of it (mL or g) and how long that lasts at the pace of the last weeks; null: not known. */
export const ShelfSupplement = Type.Object(
	{
		...SaveSupplement.properties,
		id,
		left: orNull(Type.Number()),
		lastsDays: orNull(Type.Number())
	},
	exact
);
export type ShelfSupplement = Type.Static<typeof ShelfSupplement>;
