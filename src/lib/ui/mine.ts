import { levelIn, slopeAt, valueIn } from '$core/quantities';
import { parameterOf } from '$core/catalogue';
import type { Band } from '$core/targets';
import type { Reading } from '$lib/api/readings';
import type { LevelPoint, Point, TrendInShort, WayPoint } from '$lib/api/trends';
import { figures, habits, unitFor } from './habits';

/**
 * What is kept, as the person who looks counts it. Values are stored in each parameter's own unit and stay so: they are changed
 * where they leave the server for a page or a file, once, and everything behind that point has one unit.
 */

const own = (parameter: string): string => parameterOf(parameter)?.unit ?? '';
const same = (parameter: string): boolean => unitFor(parameter) === own(parameter);

/** Figures by which a limit of a band is known: three, but of specific gravity its five. */
const edgeFigures = (unit: string): number => (unit.startsWith('SG') ? 5 : 3);
const tidy = (value: number, unit: string): number => Number(value.toPrecision(edgeFigures(unit)));

export const valueFor = (parameter: string, value: number): number =>
	valueIn(parameter, value, own(parameter), unitFor(parameter));
/** A change by so much, at a level. */
export const changeFor = (parameter: string, change: number, at: number): number =>
	change * slopeAt(parameter, at, own(parameter), unitFor(parameter));
/** A change as this person counts it, back in the parameter's own unit, at a level in that. */
export const changeFrom = (parameter: string, change: number, at: number): number =>
	change / (changeFor(parameter, 1, at) || 1);

export function bandFor(parameter: string, band: Band): Band {
	if (same(parameter)) return band;
	const unit = unitFor(parameter);
	const limit = (value: number) => tidy(valueFor(parameter, value), unit);
	return { ...band, lower: limit(band.lower), upper: limit(band.upper) };
}
export const bandsFor = (bands: Record<string, Band>): Record<string, Band> =>
	Object.fromEntries(Object.entries(bands).map(([parameter, band]) => [parameter, bandFor(parameter, band)]));

type Measured = Pick<Reading, 'parameter' | 'unit' | 'value' | 'standardUncertainty' | 'interval'> & {
	repeatability?: number | null;
};
/** A reading in this person's unit; errors by the slope where it stands. */
export function readingFor<T extends Measured>(r: T): T {
	const unit = unitFor(r.parameter);
	if (!unit || r.unit === unit) return r;
	const to = (x: number | null) => (x === null ? null : valueIn(r.parameter, x, r.unit, unit));
	const at = r.value ?? r.interval[0] ?? r.interval[1] ?? 0;
	const slope = Math.abs(slopeAt(r.parameter, at, r.unit, unit));
	const error = (u: number | null) => (u === null ? null : u * slope);
	return {
		...r,
		unit,
		value: to(r.value),
		interval: [to(r.interval[0]), to(r.interval[1])],
		standardUncertainty: error(r.standardUncertainty),
		...(r.repeatability === undefined ? {} : { repeatability: error(r.repeatability) })
	};
}

const levelFor = <T extends { value: number; standardDeviation: number }>(parameter: string, level: T): T =>
	levelIn(parameter, level, own(parameter), unitFor(parameter));
export const levelsFor = <T extends { value: number; standardDeviation: number }>(
	levels: Record<string, T>
): Record<string, T> =>
	Object.fromEntries(
		Object.entries(levels).map(([parameter, level]) => [parameter, levelFor(parameter, level)])
	);

/** What is said of where a level heads. */
type Headed = Pick<TrendInShort, 'netPerDay' | 'moved'>;
/** Rates of change by the slope at a level in the parameter's own unit. */
export function headingFor<T extends Headed>(parameter: string, trend: T, at: number): T {
	if (same(parameter)) return trend;
	const slope = slopeAt(parameter, at, own(parameter), unitFor(parameter));
	const { netPerDay, moved } = trend;
	return {
		...trend,
		netPerDay: { value: netPerDay.value * slope, standardDeviation: netPerDay.standardDeviation * slope },
		...(moved
			? { moved: { ...moved, from: valueFor(parameter, moved.from), to: valueFor(parameter, moved.to) } }
			: {})
	};
}

export function trendFor<T extends TrendInShort>(parameter: string, trend: T): T {
	if (same(parameter)) return trend;
	const at = trend.now.value;
	const slope = slopeAt(parameter, at, own(parameter), unitFor(parameter));
	const rate = <R extends { value: number; standardDeviation: number }>(r: R): R => ({
		...r,
		value: r.value * slope,
		standardDeviation: r.standardDeviation * slope
	});
	return {
		...headingFor(parameter, trend, at),
		unit: unitFor(parameter),
		now: levelFor(parameter, trend.now),
		usePerDay: rate(trend.usePerDay),
		dosingPerDay: trend.dosingPerDay * slope,
		assumes: trend.assumes.map((a) => ({
			...a,
			perDay: a.perDay * slope,
			...(a.change === undefined ? {} : { change: a.change * slope })
		})),
		forecast: trend.forecast.map((p) => ({
			...p,
			mean: valueFor(parameter, p.mean),
			sd: p.sd * Math.abs(slopeAt(parameter, p.mean, own(parameter), unitFor(parameter)))
		}))
	};
}

/** Of a list that is drawn: one slope for each point. */
export function pointsFor(parameter: string, points: Point[]): Point[] {
	if (same(parameter)) return points;
	const to = (x: number | null) => (x === null ? null : valueFor(parameter, x));
	return points.map((p) => ({
		...p,
		value: to(p.value),
		low: to(p.low),
		high: to(p.high),
		standardUncertainty:
			p.standardUncertainty === null
				? null
				: Math.abs(changeFor(parameter, p.standardUncertainty, p.value ?? p.low ?? p.high ?? 0))
	}));
}
export const wayFor = <T extends LevelPoint>(parameter: string, way: T[]): T[] =>
	same(parameter)
		? way
		: way.map((p) => {
				const slope = slopeAt(parameter, p.mean, own(parameter), unitFor(parameter));
				const rates = p as unknown as Partial<WayPoint>;
				const rate = (key: 'usePerDay' | 'useSd' | 'dosingPerDay') =>
					rates[key] === undefined ? {} : { [key]: rates[key] * slope };
				return {
					...p,
					mean: valueFor(parameter, p.mean),
					sd: p.sd * Math.abs(slope),
					...rate('usePerDay'),
					...rate('useSd'),
					...rate('dosingPerDay')
				};
			});

export const volumeUnit = (): string => habits().units?.volume ?? 'L';
const lengthUnit = (): string => habits().units?.length ?? 'cm';
/** Litres as this person has them. */
export const volumeFor = (litres: number): number => valueIn('volume', litres, 'L', volumeUnit());

const massUnit = (): string => (lengthUnit() === 'in' ? 'lb' : 'kg');
/** Fields of a tank's sizes: what each is called, kept in, and typed in by this person. */
export const sizeFields = () =>
	[
		{ key: 'lengthCm', title: 'Length inside', quantity: 'length', kept: 'cm', unit: lengthUnit() },
		{ key: 'widthCm', title: 'Width inside', quantity: 'length', kept: 'cm', unit: lengthUnit() },
		{ key: 'depthCm', title: 'Depth of water', quantity: 'length', kept: 'cm', unit: lengthUnit() },
		{ key: 'sumpL', title: 'In sump and pipes', quantity: 'volume', kept: 'L', unit: volumeUnit() },
		{ key: 'rockKg', title: 'Dry rock', quantity: 'mass', kept: 'kg', unit: massUnit() },
		{ key: 'sandKg', title: 'Dry sand', quantity: 'mass', kept: 'kg', unit: massUnit() }
	] as const;

/** What a dose is measured with. */
export const doseUnit = (): 'mL' | 'g' | 'oz' => habits().units?.dose ?? 'mL';
/** How much was poured, by volume or by weight. */
export const pouredInWords = (dose: { amountMl?: number; amountG?: number }): string | undefined => {
	if (dose.amountMl !== undefined) return `${figures(dose.amountMl)} mL`;
	if (dose.amountG === undefined) return undefined;
	const unit = doseUnit() === 'oz' ? 'oz' : 'g';
	return `${figures(valueIn('mass', dose.amountG, 'g', unit))} ${unit}`;
};
