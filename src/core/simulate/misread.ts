import { el } from '../statistics';
import { convert } from '../quantities';
import type { Method, RawReading, ReadingRequest } from '../methods';
import { alternatives, type Slip } from '../slips';

/** Air above the liquid: as much as the tip holds, and what was drawn with it, shares of the fill. */
const AIR_GAPS = { least: 0.025, most: 0.1 };
/** Drops lost or counted twice at a distraction: a few, up to a third of them; now and then a ten is lost. */
const FEW_SHARE = 1 / 3;
const TEN_LOST = 0.3;

/**
 * A reading as it would be given by someone who makes this slip, or undefined where the slip is not possible on this
 * reading. The reading is sought whose alternative under that slip is what was truly seen.
 */
export function misread(
	request: ReadingRequest,
	slip: Slip,
	random: () => number
): ReadingRequest | undefined {
	const candidates = forward(request, slip, random);
	return candidates[Math.floor(random() * candidates.length)];
}

function forward(request: ReadingRequest, slip: Slip, random: () => number): ReadingRequest[] {
	const { method, reading } = request;
	const changed = (change: object): ReadingRequest => ({
		...request,
		reading: { ...reading, ...change } as RawReading
	});
	const number =
		'left' in reading
			? reading.left
			: 'used' in reading
				? reading.used
				: 'shown' in reading
					? reading.shown
					: undefined;
	const field = 'left' in reading ? 'left' : 'used' in reading ? 'used' : 'shown';
	const refills = ('refills' in reading && reading.refills) || 0;
	const possible = (r: ReadingRequest) => alternatives(r).some((a) => a.slip === slip);

	switch (slip) {
		// These undo themselves: the alternative of the alternative is the reading.
		case 'left-used-swapped':
		case 'sample-size':
		case 'column':
		case 'unit':
			return undone(request, slip);
		case 'drop-count': {
			if (!('drops' in reading)) return [];
			if (reading.drops > 10 && random() < TEN_LOST) return [changed({ drops: reading.drops - 10 })];
			const few = 1 + Math.floor(random() * FEW_SHARE * reading.drops);
			return [-few, few]
				.map((by) => changed({ drops: reading.drops + by }))
				.filter((r) => (r.reading as { drops: number }).drops > 0);
		}
		case 'decimal':
			return typeof number === 'number'
				? [10, 0.1].map((by) => changed({ [field]: Number((number * by).toPrecision(12)) })).filter(possible)
				: [];
		case 'liquid-edge': {
			if (method.reads !== 'syringe' || typeof number !== 'number') return [];
			const { fillMl } = method.syringe;
			const gap = (AIR_GAPS.least + random() * (AIR_GAPS.most - AIR_GAPS.least)) * fillMl;
			const edge = Number((field === 'left' ? number - gap : number + gap).toFixed(4));
			return edge >= 0 && edge <= fillMl ? [changed({ [field]: edge })] : [];
		}
		case 'refill-missed':
			return refills > 0 ? [changed({ refills: refills - 1 })] : [];
		case 'refill-extra':
			return method.reads === 'syringe' ? [changed({ refills: refills + 1 })] : [];
		case 'not-subtracted':
			return [];
	}
}

/** Readings for which the slip, undone, gives the true one: found among those the slip itself leads to. */
function undone(request: ReadingRequest, slip: Slip): ReadingRequest[] {
	return alternatives(request)
		.filter((a) => a.slip === slip)
		.map((a) => mirrored(request, a.request, slip))
		.filter((r): r is ReadingRequest => r !== undefined);
}

function mirrored(request: ReadingRequest, other: ReadingRequest, slip: Slip): ReadingRequest | undefined {
	if (slip !== 'unit' && slip !== 'column') return other;
	// A slip of unit or column: the instrument shows the other number, and it is entered as the method's own.
	const { method, reading } = request;
	if (method.reads === 'shades' && other.method.reads === 'shades') {
		const { shades } = method;
		const theirs = other.method.shades;
		// The colour is that of a patch in the other list; its number is looked up in this one.
		const value = 'shade' in reading ? reading.shade : undefined;
		if (value === undefined) return undefined;
		const nearest = theirs.reduce(
			(best, s, i) => (Math.abs(s - value) < Math.abs(el(theirs, best) - value) ? i : best),
			0
		);
		const gap = Math.abs((theirs[nearest + 1] ?? el(theirs, nearest) * 2) - el(theirs, nearest)) + 1e-12;
		return Math.abs(el(theirs, nearest) - value) > gap / 2
			? undefined
			: { ...request, reading: { shade: el(shades, nearest) } };
	}
	return shownElsewhere(request, other.method);
}

/** What the same water reads on a display set to the other unit. */
function shownElsewhere(request: ReadingRequest, other: Method): ReadingRequest | undefined {
	const { method, reading } = request;
	if (!('shown' in reading) || typeof reading.shown !== 'number') return undefined;
	if (!('display' in method) || !('display' in other)) return undefined;
	const elsewhere = convert({
		quantity: method.parameter,
		value: reading.shown,
		from: method.display.unit,
		to: other.display.unit
	});
	return elsewhere.ok
		? { ...request, reading: { shown: Number(elsewhere.value.value.toPrecision(6)) } }
		: undefined;
}
