import Type from 'typebox';

/** What the schemas of several calculations are made of. */

export const exact = { additionalProperties: false } as const;
export const error = Type.Number({ minimum: 0, maximum: 1e6 });
export const word = Type.String({ minLength: 1, maxLength: 40 });
export const value = Type.Number({ minimum: -1e6, maximum: 1e6 });
export const above0 = Type.Number({ exclusiveMinimum: 0, maximum: 1e6 });
export const moment = Type.String({ format: 'date-time' });
export const Result = { value: Type.Number(), standardUncertainty: error };
