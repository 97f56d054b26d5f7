import { el } from '../../statistics';
import { convert, isQuantity } from '../../quantities';
import { unitMisreadings, type Misreading, type Misread } from '../misreadings';
import type { ShadesMethod, ShadesReading } from './schema';

type Misreads = Misread<ShadesMethod, ShadesReading>[];

export function shadeMisreadings(method: ShadesMethod, reading: ShadesReading): Misreads {
	return [
		...unitMisreadings(method, method.unit, (name) => inUnit(method, reading, name)),
		...columnMisreadings(method, reading),
		...dilutionMisreadings(reading)
	];
}

/** A reading whose numbers are others, where each of them has another. */
function renumbered(
	reading: ShadesReading,
	other: (shade: number) => number | undefined
): ShadesReading | undefined {
	const one = (shade: number, write: (to: number) => ShadesReading) => {
		const to = other(shade);
		return to === undefined ? undefined : write(to);
	};
	if ('shade' in reading) return one(reading.shade, (shade) => ({ ...reading, shade }));
	if ('below' in reading) return one(reading.below, (below) => ({ ...reading, below }));
	if ('above' in reading) return one(reading.above, (above) => ({ ...reading, above }));
	const [low, high] = reading.between.map(other);
	return low === undefined || high === undefined ? undefined : { ...reading, between: [low, high] };
}

/** The deepest number a reading names. */
const numberOf = (reading: ShadesReading): number | undefined =>
	'shade' in reading ? reading.shade : 'between' in reading ? reading.between[1] : undefined;

/** Card and reading as if their numbers were printed in that unit. */
function inUnit(
	method: ShadesMethod,
	reading: ShadesReading,
	unit: string
): { method: ShadesMethod; reading: ShadesReading } {
	const quantity = method.parameter;
	const through = (value: number) => {
		const result = isQuantity(quantity) && convert({ quantity, value, from: unit, to: method.unit });
		return result && result.ok ? result.value.value : value;
	};
	return {
		method: { ...method, shades: method.shades.map(through) },
		reading: renumbered(reading, through) ?? reading
	};
}

/** The same patch, its number read in another column. */
function columnMisreadings(method: ShadesMethod, reading: ShadesReading): Misreads {
	const columns = [{ name: undefined, shades: method.shades }, ...(method.columns ?? [])];
	const own = columns.find((c) => c.name === reading.column)?.shades ?? method.shades;
	return columns
		.filter((c) => c.name !== reading.column)
		.flatMap((column) => {
			const from = numberOf(reading);
			const moved = renumbered(reading, (shade) => column.shades[own.indexOf(shade)]);
			const to = moved && numberOf(moved);
			if (from === undefined || to === undefined) return [];
			const { column: _own, ...there } = moved!;
			return [
				{
					slip: 'column' as const,
					reading: column.name === undefined ? there : { ...there, column: column.name },
					stretch: from === 0 ? 1 : Math.max(to / from, 1e-3),
					ask: column.name
						? `Does the number belong to the column “${column.name}”?`
						: 'Does the number belong to the main column?'
				}
			];
		});
}

/** The number counts the dilution already. */
function dilutionMisreadings({ dilution, ...plain }: ShadesReading): Misreads {
	if (!dilution) return [];
	return [
		{
			slip: 'column',
			reading: plain,
			stretch: dilution.sampleMl / (dilution.sampleMl + dilution.waterMl),
			ask: 'Does the number count the dilution already, as a high range does?'
		}
	];
}

/** The colour is that of a patch under the other numbers; it is given by its number among the method's own. */
export function misreadShades(
	method: ShadesMethod,
	reading: ShadesReading,
	slip: Misreading
): ShadesReading[] {
	if (slip !== 'unit' && slip !== 'column') return [];
	if (!('shade' in reading)) return [];
	const { shade } = reading;
	return shadeMisreadings(method, reading)
		.filter((s) => s.slip === slip)
		.flatMap(({ method: other = method }) => {
			const theirs = other.shades;
			const nearest = theirs.reduce(
				(best, s, i) => (Math.abs(s - shade) < Math.abs(el(theirs, best) - shade) ? i : best),
				0
			);
			const gap = Math.abs((theirs[nearest + 1] ?? el(theirs, nearest) * 2) - el(theirs, nearest)) + 1e-12;
			return Math.abs(el(theirs, nearest) - shade) > gap / 2
				? []
				: [{ reads: 'shades' as const, shade: el(method.shades, nearest) }];
		});
}
