import Type from 'typebox';
import { Method } from '../../core/instruments';
import { exact, id } from './parts';

/** A method to keep: the profile, and the version it was made from, so that two editors do not overwrite each other. */
export const SaveMethod = Type.Object(
	{
		profile: Method,
		basedOn: Type.Optional(Type.Integer({ minimum: 0 })),
		/** The template it was made from: what the asker read by that is computed again by this kit's own chart. */
		template: Type.Optional(id),
		/** The chart before was wrong, not another batch's: what was read by it is computed again too. */
		again: Type.Optional(Type.Boolean())
	},
	exact
);
export type SaveMethod = Type.Static<typeof SaveMethod>;

/** A method as it is known to one person, in its newest version. */
export const KnownMethod = Type.Object(
	{
		id,
		versionId: id,
		version: Type.Integer(),
		profile: Method,
		/** Whether the asker made it. */
		own: Type.Optional(Type.Boolean())
	},
	exact
);
export type KnownMethod = Type.Static<typeof KnownMethod>;

/** What a chart did to readings made before it. */
export const ComputedAgain = Type.Object(
	{
		/** So many have another revision now. */
		readings: Type.Integer(),
		/** So many cannot be read by this chart, and stay as they were; why the first cannot. */
		refused: Type.Integer(),
		why: Type.Optional(Type.String())
	},
	exact
);
export type ComputedAgain = Type.Static<typeof ComputedAgain>;

/** A kit as it was kept, and what that did to readings made before. */
export const SavedMethod = Type.Object(
	{ ...KnownMethod.properties, again: Type.Optional(ComputedAgain) },
	exact
);
export type SavedMethod = Type.Static<typeof SavedMethod>;

/** A bottle or box of reagents for one method. */
export const SavePack = Type.Object(
	{
		methodId: id,
		/** What the syringe and bottles are marked with. */
		label: Type.String({ minLength: 1, maxLength: 4 }),
		batch: Type.String({ maxLength: 60 }),
		opened: Type.String({ format: 'date' }),
		bestBefore: Type.Optional(Type.String({ format: 'date' })),
		tests: Type.Integer({ minimum: 1, maximum: 100_000 }),
		price: Type.Number({ minimum: 0, maximum: 1e6 })
	},
	exact
);
export type SavePack = Type.Static<typeof SavePack>;

/** A pack as it stands: what is left of it. */
export interface Pack extends SavePack {
	id: string;
	left: number;
	/** Tests a day over the last weeks, or null where there were too few to say. */
	pace: number | null;
}
