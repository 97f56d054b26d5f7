import { parameterOf } from '../catalogue';
import { convert, formatUnit, isQuantity } from '../quantities';
import type { CommonMethod } from './profile-parts';

export const MISREADINGS = [
	'left-used-swapped',
	'decimal',
	'liquid-edge',
	'refill-missed',
	'refill-extra',
	'sample-size',
	'unit',
	'drop-count',
	'column',
	'not-subtracted'
] as const;
export type Misreading = (typeof MISREADINGS)[number];

/** What a keeper may have done instead of reading right: the method or the reading as it would then have been. */
export interface Misread<M, R> {
	slip: Misreading;
	method?: M;
	reading?: R;
	/** How much faster the true value moves than the one as given when the reading moves: the misreading's Jacobian. */
	stretch: number;
	/** How likely this form of the misreading is among its forms; all alike where it is left out. */
	chance?: number;
	/** The question, without the value it leads to. */
	ask: string;
}

/** The point one place to the left or to the right; `write` puts the number into the reading. */
export const decimalMisreadings = <R>(seen: number, write: (meant: number) => R): Misread<never, R>[] =>
	[10, 0.1].map((by) => {
		const meant = Number((seen * by).toPrecision(12));
		return {
			slip: 'decimal',
			reading: write(meant),
			stretch: by,
			ask: `Has the decimal point wasMisread: ${meant} instead of ${seen}?`
		};
	});

/** The number belongs to another unit of the same parameter: `inUnit` is the method and the reading as they are then. */
export function unitMisreadings<M extends CommonMethod, R>(
	{ parameter }: M,
	unit: string,
	inUnit: (name: string) => { method: M; reading: R }
): Misread<M, R>[] {
	if (!isQuantity(parameter)) return [];
	const confused = parameterOf(parameter)?.unitsConfused ?? [];
	return confused
		.filter((name) => name !== unit && confused.includes(unit))
		.flatMap((name) => {
			const one = convert({ quantity: parameter, value: 1, from: name, to: unit });
			return one.ok
				? [
						{
							slip: 'unit' as const,
							...inUnit(name),
							stretch: parameter === 'temperature' ? (name === 'F' ? 1 / 1.8 : 1.8) : one.value.value,
							ask: `Is the number in ${formatUnit(name)}, not in ${formatUnit(unit)}?`
						}
					]
				: [];
		});
}
