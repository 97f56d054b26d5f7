import Type from 'typebox';
import type { CompareResult, ReadsBy, ReferenceResult, ScorecardResult } from '../../core/quality';

const exact = { additionalProperties: false } as const;

export const ProofQuery = Type.Object(
	{
		/** A parameter; alkalinity where nothing is said. */
		of: Type.Optional(Type.String({ minLength: 1, maxLength: 40 })),
		/** Two kits that are held against each other, by id. */
		a: Type.Optional(Type.String({ format: 'uuid' })),
		b: Type.Optional(Type.String({ format: 'uuid' }))
	},
	exact
);
export type ProofQuery = Type.Static<typeof ProofQuery>;

/** A kit against a reference, from tests with one pack. */
export interface Check {
	source: string;
	until: string | null;
	packOpened: string | null;
	first: string;
	last: string;
	tests: number;
	result: ReferenceResult;
}

/** What is known of the kits of one parameter, from what was read with them. In the parameter's own unit. */
export interface Proof {
	parameter: string;
	unit: string;
	kits: {
		id: string;
		name: string;
		readings: number;
		card: ScorecardResult['methods'][number];
		/** Of its pack against the reference that was last checked with. */
		check: Check | null;
		/** The same of packs before, the newest first. */
		earlierPacks: Check[];
		/** The keeper's word by which a bias is taken off what this pack reads. */
		taken: { id: string; at: string; takenOff: number; standardUncertainty: number } | null;
	}[];
	best: Omit<ScorecardResult, 'methods'>;
	references: {
		id: string;
		name: string;
		value: number;
		standardUncertainty: number;
		until: string | null;
		/** It is right for instruments of this kind alone. */
		readsBy?: ReadsBy | undefined;
		/** A lab's answer is of the tank's own water, as it was drawn then; a bottle's content stays. */
		drawn: string | null;
	}[];
	/** The two that were asked for, or that were most often done on the same water. */
	pair: {
		a: string;
		b: string;
		points: { at: string; a: number; b: number }[];
		result: CompareResult | null;
	} | null;
}
