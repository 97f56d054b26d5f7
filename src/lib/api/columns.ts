/** Rows as columns: names are said once, so that ten years of readings are small on the wire and quick to read. */
export type Columns<T> = { [K in keyof T]: T[K][] };

/** Past the sixth digit no number here says anything. */
const DIGITS = 6;
const short = (value: unknown) =>
	typeof value === 'number' && !Number.isInteger(value) ? Number(value.toPrecision(DIGITS)) : value;

/** The named fields of every row, numbers to six digits (whole numbers as they are). */
export const inColumns = <T extends object>(rows: T[], keys: (keyof T)[]): Columns<T> =>
	Object.fromEntries(keys.map((key) => [key, rows.map((row) => short(row[key]))])) as Columns<T>;

/** The rows again. */
export function inRows<T extends object>(columns: Columns<T>): T[] {
	const named = Object.entries(columns) as [keyof T, T[keyof T][]][];
	return (named[0]?.[1] ?? []).map(
		(_, i) => Object.fromEntries(named.map(([key, column]) => [key, column[i]])) as T
	);
}
