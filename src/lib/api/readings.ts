import Type from 'typebox';
import { StepMark } from '../../core/run';
import { GivenReading, RawReading } from '../../core/instruments';
import { Proved, Qualifier } from '../../core/methods';
import { exact, id, moment, orNull } from './parts';

/** What a client sends to save a reading; the server computes the value again. */
export const SaveReading = Type.Object(
	{
		sourceId: id,
		sampleId: id,
		takenAt: moment,
		methodVersionId: id,
		sampleSize: Type.Optional(Type.String({ maxLength: 40 })),
		reading: GivenReading,
		/** The reading of the same water that a by-difference method takes away. */
		takenAwayId: Type.Optional(id),
		/** The run at the bench it was read in. */
		runId: Type.Optional(id)
	},
	exact
);
export type SaveReading = Type.Static<typeof SaveReading>;

/** What was really seen, where it was written down wrong; the value is computed again. */
export const CorrectReading = Type.Object(
	{
		/** The revision that was looked at, so that two people do not overwrite each other. */
		basedOn: Type.Integer({ minimum: 1 }),
		takenAt: moment,
		methodVersionId: id,
		sampleSize: Type.Optional(Type.String({ maxLength: 40 })),
		reading: GivenReading,
		takenAwayId: Type.Optional(id),
		reason: Type.String({ minLength: 1, maxLength: 300 })
	},
	exact
);
export type CorrectReading = Type.Static<typeof CorrectReading>;

/** Several readings that no longer count, or count again. */
export const VoidReadings = Type.Object(
	{
		systemId: id,
		ids: Type.Array(id, { minItems: 1, maxItems: 1000 }),
		voided: Type.Boolean(),
		reason: Type.String({ minLength: 1, maxLength: 300 })
	},
	exact
);
export type VoidReadings = Type.Static<typeof VoidReadings>;

/** Why a reading no longer counts. */
export const VoidReading = Type.Object({ reason: Type.String({ minLength: 1, maxLength: 300 }) }, exact);
export type VoidReading = Type.Static<typeof VoidReading>;

const number = orNull(Type.Number());
/** What a reading says, in its parameter's own unit. */
export const Said = {
	qualifier: Qualifier,
	value: number,
	standardUncertainty: number,
	interval: Type.Tuple([number, number]),
	unit: Type.String()
};
/** A reading as it stands now. */
export const Reading = Type.Object(
	{
		id,
		systemId: id,
		sourceId: id,
		parameter: Type.String(),
		takenAt: moment,
		...Said,
		repeatability: number,
		methodName: Type.String(),
		methodId: id,
		/** Whether it counts: read by a chart of the keeper's own, or by an instrument that needs none. */
		ownChart: Type.Boolean(),
		raw: RawReading,
		/** Which of its method's samples it was read in; nothing where the method has one. */
		sampleSize: orNull(Type.String()),
		revision: Type.Integer(),
		voided: Type.Boolean(),
		/** What checks have taught of its kit, and when, where value and error go by it; in the parameter's own unit for everybody. */
		proof: orNull(Type.Object({ ...Proved.properties, at: moment }, exact)),
		/** What was done otherwise than the method says, where it was read in a run. */
		marks: orNull(Type.Array(StepMark))
	},
	exact
);
export type Reading = Type.Static<typeof Reading>;

/** An earlier reading as the bench shows it beside a new one, or takes it away from one. */
export type EarlierReading = Omit<Reading, 'systemId' | 'marks' | 'revision' | 'voided'>;
export const EARLIER_FIELDS: (keyof EarlierReading)[] = [
	'id',
	'sourceId',
	'parameter',
	'takenAt',
	'unit',
	'qualifier',
	'value',
	'standardUncertainty',
	'interval',
	'repeatability',
	'methodName',
	'methodId',
	'ownChart',
	'raw',
	'sampleSize',
	'proof'
];
export const READING_FIELDS: (keyof Reading)[] = [
	...EARLIER_FIELDS,
	'systemId',
	'marks',
	'revision',
	'voided'
];
