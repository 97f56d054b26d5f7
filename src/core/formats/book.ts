import Type from 'typebox';
import { RunEvent } from '../run';
import { Method, GivenReading } from '../instruments';
import { ReadingResult } from '../methods';
import { ReferenceContent } from '../quality';
import { PhotoMarks } from '../picture';
import { TankSizes, WaterChange } from '../tank';
import { WaterEvent } from '../trend';

const exact = { additionalProperties: false } as const;
const id = Type.String({ format: 'uuid' });
const at = Type.String({ format: 'date-time' });
const name = Type.String({ minLength: 1, maxLength: 120 });

const Revision = Type.Object(
	{
		at,
		/** Who wrote it, by name. */
		by: name,
		methodVersionId: id,
		takenAt: Type.Optional(at),
		raw: GivenReading,
		sampleSize: Type.Optional(Type.String({ maxLength: 40 })),
		takenAwayId: Type.Optional(id),
		/** What was computed then, by which version of the calculation; kept as it was. */
		result: Type.Object(
			{ ...ReadingResult.properties, questions: Type.Optional(ReadingResult.properties.questions) },
			exact
		),
		calculation: Type.String({ maxLength: 40 }),
		voided: Type.Boolean(),
		reason: Type.Optional(Type.String({ maxLength: 300 }))
	},
	exact
);

/** `tevrik.book/1`: everything that is kept of one tank, to read elsewhere or to take in again. */
export const Book = Type.Object(
	{
		format: Type.Literal('tevrik.book/1'),
		writtenAt: at,
		system: Type.Object(
			{
				id,
				name,
				netVolumeL: Type.Number({ exclusiveMinimum: 0, maximum: 1e6 }),
				sizes: Type.Optional(TankSizes),
				/** Standard uncertainty of the net volume, L, where it was measured. */
				netVolumeError: Type.Optional(Type.Number({ minimum: 0, maximum: 1e6 })),
				/** How its keeper changes water. */
				waterChange: Type.Optional(WaterChange),
				phase: Type.Unsafe<'new' | 'cycling' | 'young' | 'settled'>({
					type: 'string',
					enum: ['new', 'cycling', 'young', 'settled']
				}),
				timeZone: Type.String({ minLength: 1, maxLength: 60 }),
				school: Type.String({ maxLength: 40 }),
				salinityPsu: Type.Number({ minimum: 0, maximum: 42 }),
				createdAt: at
			},
			exact
		),
		bands: Type.Record(
			Type.String({ minLength: 1, maxLength: 40 }),
			Type.Object({ lower: Type.Number(), upper: Type.Number() }, exact)
		),
		sources: Type.Array(
			Type.Object(
				{
					id,
					kind: Type.Unsafe<'tank' | 'new mix' | 'tap' | 'purified' | 'reference' | 'other'>({
						type: 'string',
						enum: ['tank', 'new mix', 'tap', 'purified', 'reference', 'other']
					}),
					name,
					content: Type.Optional(ReferenceContent)
				},
				exact
			),
			{ minItems: 1, maxItems: 1000 }
		),
		/** Every version of a method that a reading was made with. */
		methods: Type.Array(
			Type.Object(
				{ versionId: id, methodId: id, version: Type.Integer({ minimum: 1 }), profile: Method },
				exact
			),
			{ maxItems: 10_000 }
		),
		readings: Type.Array(
			Type.Object(
				{
					id,
					sampleId: id,
					sourceId: id,
					takenAt: at,
					/** The run it was read in. */
					runId: Type.Optional(id),
					/** Oldest first; the last one counts. */
					revisions: Type.Array(Revision, { minItems: 1, maxItems: 1000 })
				},
				exact
			),
			{ maxItems: 1_000_000 }
		),
		/** Runs at the bench, each as the list of what happened in it. */
		runs: Type.Array(
			Type.Object(
				{
					id,
					sourceId: id,
					startedAt: at,
					finishedAt: Type.Optional(at),
					events: Type.Array(RunEvent, { maxItems: 5000 })
				},
				exact
			),
			{ maxItems: 100_000 }
		),
		events: Type.Array(
			Type.Object(
				{
					id,
					at,
					event: WaterEvent,
					by: name,
					createdAt: at,
					voided: Type.Boolean(),
					reason: Type.Optional(Type.String({ maxLength: 300 }))
				},
				exact
			),
			{ maxItems: 1_000_000 }
		),
		/** Pictures readings were taken from, JPEG as base64: the newest, up to 40 MB. */
		photos: Type.Optional(
			Type.Array(
				Type.Object(
					{
						id,
						readingId: id,
						at,
						picture: Type.String({ maxLength: 900_000, pattern: '^[A-Za-z0-9+/]+={0,2}$' }),
						marks: Type.Optional(PhotoMarks)
					},
					exact
				),
				{ maxItems: 5000 }
			)
		)
	},
	exact
);
export type Book = Type.Static<typeof Book>;
