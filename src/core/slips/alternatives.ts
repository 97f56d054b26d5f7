import { parameterOf } from '../catalogue';
import type { Method, RawReading, ReadingRequest } from '../methods';
import { convert, formatUnit, isQuantity } from '../quantities';

/** What a keeper may have done instead of reading right, and the reading that would then be the true one. */
export interface Alternative {
	slip: Slip;
	request: ReadingRequest;
	/** How much faster the true value moves than the one as given when the reading moves: the slip's Jacobian. */
	stretch: number;
	/** How likely this form of the slip is among its forms; all alike where it is left out. */
	chance?: number;
	/** The question, without the value it leads to. */
	ask: string;
}

export const SLIPS = [
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
export type Slip = (typeof SLIPS)[number];

/** Air between the plunger and the liquid of a 1 mL syringe with its tip on, as shares of the fill: by the tip, and by what was drawn with it. */
const AIR_GAPS = [0.03, 0.045, 0.06, 0.075, 0.09];

/** Drops by which a count goes wrong: a few either way at a distraction, and of three such slips one is a whole ten that was lost. */
const FEW = [1, 2, 3, 4, 5, 6, 7, 8, 9].flatMap((by) => [-by, by]);
const TEN_LOST = 1 / 3;
const MISCOUNTS = [
	...FEW.map((by) => ({ by, chance: (1 - TEN_LOST) / FEW.length })),
	{ by: 10, chance: TEN_LOST }
];

/**
 * Every slip this method allows, with what would have been read without it.
 *
 * @example alternatives({ method: SHIPPED_METHODS[0], reading: { left: 0.3 } }).some((a) => a.slip === 'left-used-swapped') // → true
 */
export function alternatives(request: ReadingRequest): Alternative[] {
	const { method } = request;
	const own = {
		syringe: syringeSlips,
		drops: dropSlips,
		shades: shadeSlips,
		display: shownSlips,
		'scale-line': shownSlips
	}[method.reads](request);
	return [...own, ...sampleSlips(request), ...subtractionSlips(request)];
}

const withReading = (request: ReadingRequest, change: object): ReadingRequest => ({
	...request,
	reading: { ...request.reading, ...change } as RawReading
});

function syringeSlips(request: ReadingRequest): Alternative[] {
	const { method, reading } = request;
	if (method.reads !== 'syringe' || !('left' in reading || 'used' in reading)) return [];
	const field = 'left' in reading ? 'left' : 'used';
	const other = field === 'left' ? 'used' : 'left';
	const seen = 'left' in reading ? reading.left : reading.used;
	const { fillMl } = method.syringe;
	const refills = reading.refills ?? 0;
	const swapped = { ...request, reading: renamed(reading, field, other) };
	const list: Alternative[] = [
		{
			slip: 'left-used-swapped',
			request: swapped,
			stretch: 1,
			ask: `Is ${said(seen)} mL what was ${other}, not what was ${field}?`
		},
		{
			slip: 'refill-missed',
			request: withReading(request, { refills: refills + 1 }),
			stretch: 1,
			ask: 'Was there one more full syringe before this one?'
		}
	];
	if (refills > 0)
		list.push({
			slip: 'refill-extra',
			request: withReading(request, { refills: refills - 1 }),
			stretch: 1,
			ask: `Were there only ${refills - 1} full syringes before this one?`
		});
	if (typeof seen === 'number') {
		// The liquid ends below the plunger: whoever reads its edge sees less left than there is.
		for (const share of AIR_GAPS) {
			const gap = share * fillMl;
			const plunger = field === 'left' ? seen + gap : seen - gap;
			if (plunger < 0 || plunger > fillMl) continue;
			list.push({
				slip: 'liquid-edge',
				request: withReading(request, { [field]: plunger }),
				stretch: 1,
				ask: 'Did you read the edge of the liquid? The plunger’s edge counts.'
			});
		}
		list.push(...decimalSlips(request, field, seen));
	}
	return list;
}

function renamed(reading: RawReading, from: string, to: string): RawReading {
	const { [from]: value, ...rest } = reading as Record<string, unknown>;
	return { ...rest, [to]: value } as unknown as RawReading;
}

/** The point one place to the left or to the right. */
const decimalSlips = (request: ReadingRequest, field: string, seen: number): Alternative[] =>
	[10, 0.1].map((by) => {
		const meant = Number((seen * by).toPrecision(12));
		return {
			slip: 'decimal',
			request: withReading(request, { [field]: meant }),
			stretch: by,
			ask: `Has the decimal point slipped: ${meant} instead of ${seen}?`
		};
	});

function dropSlips(request: ReadingRequest): Alternative[] {
	const { reading } = request;
	if (!('drops' in reading)) return [];
	return MISCOUNTS.filter(({ by }) => reading.drops + by > 0).map(({ by, chance }) => ({
		slip: 'drop-count',
		chance,
		request: withReading(request, { drops: reading.drops + by }),
		stretch: 1,
		ask: `Did the count slip: ${reading.drops + by} drops instead of ${reading.drops}?`
	}));
}

function shadeSlips(request: ReadingRequest): Alternative[] {
	const { method, reading } = request;
	if (method.reads !== 'shades') return [];
	const list = unitSlips(request, method.unit);
	const read = 'column' in reading ? reading.column : undefined;
	const columns = [{ name: undefined, shades: method.shades }, ...(method.columns ?? [])];
	const own = columns.find((c) => c.name === read)?.shades ?? method.shades;
	for (const column of columns.filter((c) => c.name !== read)) {
		const moved = movedAcross(reading, (shade) => column.shades[own.indexOf(shade)], column.name);
		if (!moved) continue;
		const [from, to] = moved.pair;
		list.push({
			slip: 'column',
			request: { ...request, reading: moved.reading },
			stretch: from === 0 ? 1 : Math.max(to / from, 1e-3),
			ask: column.name
				? `Does the number belong to the column “${column.name}”?`
				: 'Does the number belong to the main column?'
		});
	}
	const { dilution, ...plain } = reading;
	if (dilution)
		list.push({
			slip: 'column',
			request: { ...request, reading: plain as RawReading },
			stretch: dilution.sampleMl / (dilution.sampleMl + dilution.waterMl),
			ask: 'Does the number count the dilution already, as a high range does?'
		});
	return list;
}

/** The same patch in another column, and the pair of numbers printed on it. */
function movedAcross(
	reading: RawReading,
	across: (shade: number) => number | undefined,
	column: string | undefined
): { reading: RawReading; pair: [number, number] } | undefined {
	const { column: _own, ...rest } = reading as { column?: string };
	const there = { ...rest, ...(column === undefined ? {} : { column }) };
	if ('shade' in reading) {
		const to = across(reading.shade);
		return to === undefined
			? undefined
			: { reading: { ...there, shade: to } as RawReading, pair: [reading.shade, to] };
	}
	if ('between' in reading) {
		const [low, high] = reading.between.map(across);
		if (low === undefined || high === undefined) return undefined;
		return { reading: { ...there, between: [low, high] } as RawReading, pair: [reading.between[1], high] };
	}
	return undefined;
}

function shownSlips(request: ReadingRequest): Alternative[] {
	const { method, reading } = request;
	if ((method.reads !== 'display' && method.reads !== 'scale-line') || !('shown' in reading)) return [];
	const list = unitSlips(request, method.display.unit);
	// A decimal slip in a specific gravity or a pH leaves the scale and is refused before it can be asked about.
	const { shown } = reading;
	if (typeof shown === 'number' && !method.display.unit.startsWith('SG'))
		list.push(...decimalSlips(request, 'shown', shown));
	return list;
}

/** The number belongs to another unit of the same parameter: the value is converted from there. */
function unitSlips(request: ReadingRequest, unit: string): Alternative[] {
	const { method } = request;
	const { parameter } = method;
	if (!isQuantity(parameter)) return [];
	const confused = parameterOf(parameter)?.unitsConfused ?? [];
	return confused
		.filter((name) => name !== unit && confused.includes(unit))
		.flatMap((name) => {
			const meant = inUnit(request, name);
			const one = convert({ quantity: parameter, value: 1, from: name, to: unit });
			return meant && one.ok
				? [
						{
							slip: 'unit' as const,
							request: meant,
							stretch: parameter === 'temperature' ? (name === 'F' ? 1 / 1.8 : 1.8) : one.value.value,
							ask: `Is the number in ${formatUnit(name)}, not in ${formatUnit(unit)}?`
						}
					]
				: [];
		});
}

/** The request as if its numbers were printed in that unit. */
function inUnit(request: ReadingRequest, unit: string): ReadingRequest | undefined {
	const { method } = request;
	if (method.reads === 'display' || method.reads === 'scale-line') {
		const { range: _range, absolute: _absolute, ...display } = method.display;
		return { ...request, method: { ...method, display: { ...display, unit } } as Method };
	}
	if (method.reads !== 'shades' || !isQuantity(method.parameter)) return undefined;
	const quantity = method.parameter;
	const through = (value: number) => {
		const result = convert({ quantity, value, from: unit, to: method.unit });
		return result.ok ? result.value.value : value;
	};
	const { reading } = request;
	const meant: RawReading =
		'shade' in reading
			? { ...reading, shade: through(reading.shade) }
			: 'between' in reading
				? { ...reading, between: [through(reading.between[0]), through(reading.between[1])] }
				: 'below' in reading
					? { ...reading, below: through(reading.below) }
					: 'above' in reading
						? { ...reading, above: through(reading.above) }
						: reading;
	return { ...request, method: { ...method, shades: method.shades.map(through) }, reading: meant };
}

/** The chart of one sample used with another. */
function sampleSlips(request: ReadingRequest): Alternative[] {
	const { method } = request;
	const samples = method.samples ?? [];
	const drawn = samples.find((s) => s.id === request.sample) ?? samples[0];
	return samples
		.filter((s) => s !== drawn)
		.map((s) => ({
			slip: 'sample-size',
			request: { ...request, sample: s.id },
			stretch: s.times / drawn!.times,
			ask: `Was it the ${s.id} sample, ${s.ml} mL?`
		}));
}

/** The other parameter had been taken away already. */
function subtractionSlips(request: ReadingRequest): Alternative[] {
	const { takeAway, ...method } = request.method;
	if (!takeAway) return [];
	return [
		{
			slip: 'not-subtracted',
			request: { ...request, method },
			stretch: 1,
			ask: `Was the ${takeAway.parameter} taken away already, by a fresh start of the syringe?`
		}
	];
}

const said = (seen: number | [number, number]) => (typeof seen === 'number' ? String(seen) : seen.join('-'));
