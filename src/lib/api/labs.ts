import Type from 'typebox';
import { exact, id, moment, orNull } from './parts';

/** A lab's sheet as text, CSV. */
export const TakeLabSheet = Type.Object({ text: Type.String({ minLength: 1, maxLength: 200_000 }) }, exact);
export type TakeLabSheet = Type.Static<typeof TakeLabSheet>;

/** What was taken in of a sheet. */
export const TakenLabSheet = Type.Object(
	{
		lab: Type.String(),
		sample: orNull(Type.String()),
		drawn: moment,
		/** The readings made of it, by id. */
		readings: Type.Array(Type.Object({ id, parameter: Type.String() }, exact)),
		/** By the sheet's line from 1. */
		refused: Type.Array(Type.Object({ line: Type.Integer(), reason: Type.String() }, exact))
	},
	exact
);
export type TakenLabSheet = Type.Static<typeof TakenLabSheet>;

/** A lab's answer beside what kits said of the same water. In own units. */
const LabSample = Type.Object(
	{
		id,
		lab: Type.String(),
		drawn: moment,
		results: Type.Array(
			Type.Object(
				{
					parameter: Type.String(),
					unit: Type.String(),
					value: Type.Number(),
					standardUncertainty: Type.Number(),
					kits: Type.Array(
						Type.Object(
							{
								name: Type.String(),
								value: Type.Number(),
								standardUncertainty: Type.Number(),
								/** Of a difference as large by the errors of both alone. */
								chance: Type.Number()
							},
							exact
						)
					)
				},
				exact
			)
		)
	},
	exact
);
type LabSample = Type.Static<typeof LabSample>;
export const Labs = Type.Object(
	{
		/** Newest first. */
		answers: Type.Array(LabSample),
		/** At the simulated lab: what was posted and has not been fetched, with the day its sheet is back. */
		posted: Type.Array(
			Type.Object({ id, lab: Type.String(), sample: Type.String(), drawn: moment, back: moment }, exact)
		)
	},
	exact
);
export type Labs = Type.Static<typeof Labs>;
