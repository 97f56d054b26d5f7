import Type from 'typebox';
import { oneOf } from '../../core/base';
import { CompareResult, READS_BY, ReferenceResult, ScorecardResult } from '../../core/quality';
import { exact, id, moment, orNull } from './parts';

export const KitChecksQuery = Type.Object(
	{
		/** A parameter; alkalinity where nothing is said. */
		of: Type.Optional(Type.String({ minLength: 1, maxLength: 40 })),
		/** Two kits that are held against each other, by id. */
		a: Type.Optional(id),
		b: Type.Optional(id)
	},
	exact
);
export type KitChecksQuery = Type.Static<typeof KitChecksQuery>;

/** A kit against a reference, from tests with one pack. */
export const Check = Type.Object(
	{
		source: Type.String(),
		until: orNull(Type.String()),
		packOpened: orNull(Type.String()),
		first: moment,
		last: moment,
		tests: Type.Integer(),
		result: ReferenceResult
	},
	exact
);
export type Check = Type.Static<typeof Check>;

const { methods: cards, ...best } = ScorecardResult.properties;
/** What is known of the kits of one parameter, from what was read with them. In the parameter's own unit. */
export const KitChecks = Type.Object(
	{
		parameter: Type.String(),
		unit: Type.String(),
		kits: Type.Array(
			Type.Object(
				{
					id,
					name: Type.String(),
					readings: Type.Integer(),
					card: cards.items,
					/** Of its pack against the reference that was last checked with. */
					check: orNull(Check),
					/** The same of packs before, the newest first. */
					earlierPacks: Type.Array(Check),
					/** The keeper's word by which a bias is taken off what this pack reads. */
					taken: orNull(
						Type.Object(
							{ id, at: moment, takenOff: Type.Number(), standardUncertainty: Type.Number() },
							exact
						)
					)
				},
				exact
			)
		),
		best: Type.Object(best, exact),
		references: Type.Array(
			Type.Object(
				{
					id,
					name: Type.String(),
					value: Type.Number(),
					standardUncertainty: Type.Number(),
					until: orNull(Type.String()),
					/** It is right for instruments of this kind alone. */
					readsBy: Type.Optional(oneOf(READS_BY)),
					/** A lab's answer is of the tank's own water, as it was drawn then; a bottle's content stays. */
					drawn: orNull(moment)
				},
				exact
			)
		),
		/** The two that were asked for, or that were most often done on the same water. */
		pair: orNull(
			Type.Object(
				{
					a: id,
					b: id,
					points: Type.Array(Type.Object({ at: moment, a: Type.Number(), b: Type.Number() }, exact)),
					result: orNull(CompareResult)
				},
				exact
			)
		)
	},
	exact
);
export type KitChecks = Type.Static<typeof KitChecks>;
