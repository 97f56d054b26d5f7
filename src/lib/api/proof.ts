import Type from 'typebox';
import type { CompareResult, ReferenceResult, ScorecardResult } from '../../core/quality';

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

/** What is known of the kits of one parameter, from what was read with them. In the parameter's own unit. */
export interface Proof {
	parameter: string;
	unit: string;
	kits: {
		id: string;
		name: string;
		readings: number;
		card: ScorecardResult['methods'][number];
		/** Against the reference it was last checked with. */
		check: {
			source: string;
			until: string | null;
			last: string;
			tests: number;
			result: ReferenceResult;
		} | null;
	}[];
	best: Omit<ScorecardResult, 'methods'>;
	references: {
		id: string;
		name: string;
		value: number;
		standardUncertainty: number;
		until: string | null;
	}[];
	/** The two that were asked for, or that were most often done on the same water. */
	pair: {
		a: string;
		b: string;
		points: { at: string; a: number; b: number }[];
		result: CompareResult | null;
	} | null;
}
