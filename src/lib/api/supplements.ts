import Type from 'typebox';
import { Supplement } from '../../core/adjust';

const exact = { additionalProperties: false } as const;

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
export interface ShelfSupplement extends SaveSupplement {
	id: string;
	left: number | null;
	lastsDays: number | null;
}
