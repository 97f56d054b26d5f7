import Type, { type TUnsafe } from 'typebox';

/**
 * A schema of one of these words.
 *
 * @example oneOf(['up', 'down']).enum // → ['up', 'down']
 */
export const oneOf = <T extends string>(words: readonly T[]): TUnsafe<T> & { enum: T[] } =>
	Type.Unsafe<T>({ type: 'string', enum: [...words] }) as TUnsafe<T> & { enum: T[] };
