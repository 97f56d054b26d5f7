import Type from 'typebox';
import { exact, error, value, above0, Result } from './parts';

export const ScorecardRequest = Type.Object(
	{
		methods: Type.Array(
			Type.Object(
				{
					id: Type.String({ minLength: 1, maxLength: 80 }),
					/** Of each time it was done at the bench, s. */
					times: Type.Optional(
						Type.Array(Type.Object({ hands: error, wait: error }, exact), { maxItems: 5000 })
					),
					pack: Type.Optional(Type.Object({ tests: above0, price: error }, exact)),
					/** All of a reading's error, in the parameter's unit. */
					errors: Type.Optional(Type.Array(error, { maxItems: 5000 })),
					/** Twice the same water, with what one test should scatter by. */
					duplicates: Type.Optional(
						Type.Array(Type.Object({ a: value, b: value, repeatability: above0 }, exact), { maxItems: 5000 })
					),
					/** Misreadings that were asked about, and that the keeper admitted. */
					slips: Type.Optional(
						Type.Object(
							{
								readings: Type.Integer({ minimum: 0 }),
								asked: Type.Integer({ minimum: 0 }),
								admitted: Type.Integer({ minimum: 0 })
							},
							exact
						)
					),
					bias: Type.Optional(Type.Object({ value, standardUncertainty: error }, exact)),
					/** Readings of water of known content that an eye and a photograph both made of the same vial. */
					seen: Type.Optional(
						Type.Array(Type.Object({ truth: value, camera: value, eye: value }, exact), { maxItems: 5000 })
					)
				},
				exact
			),
			{ minItems: 1, maxItems: 50 }
		)
	},
	exact
);
export type ScorecardRequest = Type.Static<typeof ScorecardRequest>;

export const ScorecardResult = Type.Object(
	{
		methods: Type.Array(
			Type.Object(
				{
					id: Type.String(),
					/** The middle of what it took, s. */
					hands: Type.Optional(error),
					wait: Type.Optional(error),
					cost: Type.Optional(error),
					/** The middle of its readings' errors. */
					standardUncertainty: Type.Optional(error),
					/** From duplicates: what one test scatters by, its 95 % interval, and beside what was stated. */
					scatter: Type.Optional(
						Type.Object(
							{
								value: error,
								interval: Type.Tuple([error, error]),
								pairs: Type.Integer(),
								ratio: Type.Number(),
								chance: Type.Number()
							},
							exact
						)
					),
					slips: Type.Optional(Type.Object({ asked: Type.Number(), admitted: Type.Number() }, exact)),
					bias: Type.Optional(Type.Object({ ...Result, chance: Type.Number() }, exact)),
					/** Eye against photograph: what each was off by (root mean square), how often the photograph was nearer, and by what chance it would be as often if both were as good. */
					seeing: Type.Optional(
						Type.Object(
							{
								readings: Type.Integer(),
								camera: error,
								eye: error,
								cameraNearer: Type.Integer(),
								chance: Type.Number(),
								better: Type.Unsafe<'camera' | 'eye' | 'unsure'>({
									type: 'string',
									enum: ['camera', 'eye', 'unsure']
								})
							},
							exact
						)
					)
				},
				exact
			)
		),
		/** Which is the surest, the quickest and the cheapest, by id; none where only one is known. */
		surest: Type.Optional(Type.String()),
		quickest: Type.Optional(Type.String()),
		cheapest: Type.Optional(Type.String())
	},
	exact
);
export type ScorecardResult = Type.Static<typeof ScorecardResult>;
