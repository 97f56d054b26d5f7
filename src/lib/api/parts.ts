import Type, { type TSchema, type TUnion } from 'typebox';

/** What the schemas of the API are made of. Objects hold what they name, and nothing else. */
export const exact = { additionalProperties: false } as const;
export const id = Type.String({ format: 'uuid' });
/** ISO 8601. */
export const moment = Type.String({ format: 'date-time' });
/** Null where it is not known or not there. */
export const orNull = <T extends TSchema>(schema: T): TUnion<[T, Type.TNull]> =>
	Type.Union([schema, Type.Null()]);

/** What was saved, by its id. */
export const Saved = Type.Object({ id }, exact);
/** A format of ours as JSON Schema. */
export const JsonSchema = Type.Record(Type.String(), Type.Unknown());
/** A page of a list: `next` is the address of the page below. */
export const next = orNull(Type.String({ pattern: '^/api/v1/' }));
