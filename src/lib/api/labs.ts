import Type from 'typebox';

/** A lab's sheet as text, CSV. */
export const TakeLabSheet = Type.Object(
	{ text: Type.String({ minLength: 1, maxLength: 200_000 }) },
	{ additionalProperties: false }
);
export type TakeLabSheet = Type.Static<typeof TakeLabSheet>;

/** What was taken in of a sheet. */
export interface TakenLabSheet {
	lab: string;
	sample: string | null;
	drawn: string;
	/** The readings made of it, by id. */
	readings: { id: string; parameter: string }[];
	/** By the sheet's line from 1. */
	refused: { line: number; reason: string }[];
}

/** A sample on its way to a lab, or the lab's answer, beside what kits said of the same water. In own units. */
export interface LabSample {
	id: string;
	lab: string;
	drawn: string;
	results: {
		parameter: string;
		unit: string;
		value: number;
		standardUncertainty: number;
		/** Of a difference as large by the errors of both alone. */
		kits: { name: string; value: number; standardUncertainty: number; chance: number }[];
	}[];
}
export interface Labs {
	/** Newest first. */
	answers: LabSample[];
	/** At the simulated lab: what was posted and has not been fetched, with the day its sheet is back. */
	posted: { id: string; lab: string; sample: string; drawn: string; back: string }[];
}
