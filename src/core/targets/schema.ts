import Type from 'typebox';
import type { Phase } from '../catalogue';
import { SCHOOLS } from './schools';

const exact = { additionalProperties: false } as const;
const limits = { lower: Type.Number(), upper: Type.Number() };

export const TargetsRequest = Type.Object(
	{
		school: Type.Unsafe<string>({ type: 'string', enum: SCHOOLS.map((s) => s.id) }),
		phase: Type.Unsafe<Phase>({ type: 'string', enum: ['new', 'cycling', 'young', 'settled'] }),
		/** Bands of the keeper's own go before the school's. */
		own: Type.Optional(Type.Record(Type.String(), Type.Object(limits, exact)))
	},
	exact
);
export type TargetsRequest = Type.Static<typeof TargetsRequest>;

export const TargetsResult = Type.Object(
	{
		school: Type.String(),
		why: Type.String(),
		targets: Type.Record(
			Type.String(),
			Type.Object(
				{
					...limits,
					ideal: Type.Number(),
					alarm: Type.Tuple([Type.Number(), Type.Number()]),
					healthyPerDay: Type.Number()
				},
				exact
			)
		)
	},
	exact
);
export type TargetsResult = Type.Static<typeof TargetsResult>;
