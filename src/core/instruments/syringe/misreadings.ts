import { decimalMisreadings, type Misreading, type Misread } from '../misreadings';
import { plungerOf, withPlunger } from './observe';
import type { SyringeMethod, SyringeReading } from './schema';

/** Air between the plunger and the liquid of a 1 mL syringe with its tip on, as shares of the fill: by the tip, and by what was drawn with it. */
const AIR_GAPS = [0.03, 0.045, 0.06, 0.075, 0.09];
/** The same as it happens to somebody, between these. */
const AIR = { least: 0.025, most: 0.1 };

const said = (seen: number | [number, number]) => (typeof seen === 'number' ? String(seen) : seen.join('-'));
const otherOf = (field: 'left' | 'used') => (field === 'left' ? 'used' : 'left');

export function syringeMisreadings(
	method: SyringeMethod,
	reading: SyringeReading
): Misread<SyringeMethod, SyringeReading>[] {
	const { field, seen } = plungerOf(reading);
	const other = otherOf(field);
	const { fillMl } = method.syringe;
	const refills = reading.refills ?? 0;
	const list: Misread<SyringeMethod, SyringeReading>[] = [
		{
			slip: 'left-used-swapped',
			reading: withPlunger(reading, other, seen),
			stretch: 1,
			ask: `Is ${said(seen)} mL what was ${other}, not what was ${field}?`
		},
		{
			slip: 'refill-missed',
			reading: { ...reading, refills: refills + 1 },
			stretch: 1,
			ask: 'Was there one more full syringe before this one?'
		}
	];
	if (refills > 0)
		list.push({
			slip: 'refill-extra',
			reading: { ...reading, refills: refills - 1 },
			stretch: 1,
			ask: `Were there only ${refills - 1} full syringes before this one?`
		});
	if (typeof seen !== 'number') return list;
	// The liquid ends below the plunger: whoever reads its edge sees less left than there is.
	for (const share of AIR_GAPS) {
		const gap = share * fillMl;
		const plunger = field === 'left' ? seen + gap : seen - gap;
		if (plunger < 0 || plunger > fillMl) continue;
		list.push({
			slip: 'liquid-edge',
			reading: withPlunger(reading, field, plunger),
			stretch: 1,
			ask: 'Did you read the edge of the liquid? The plunger’s edge counts.'
		});
	}
	list.push(...decimalMisreadings(seen, (meant) => withPlunger(reading, field, meant)));
	return list;
}

export function misreadSyringe(
	method: SyringeMethod,
	reading: SyringeReading,
	slip: Misreading,
	random: () => number
): SyringeReading[] {
	const { field, seen } = plungerOf(reading);
	const refills = reading.refills ?? 0;
	const { fillMl } = method.syringe;
	switch (slip) {
		case 'left-used-swapped':
			return [withPlunger(reading, otherOf(field), seen)];
		case 'decimal':
			return typeof seen === 'number'
				? [10, 0.1].map((by) => withPlunger(reading, field, Number((seen * by).toPrecision(12))))
				: [];
		case 'liquid-edge': {
			if (typeof seen !== 'number') return [];
			const gap = (AIR.least + random() * (AIR.most - AIR.least)) * fillMl;
			const edge = Number((field === 'left' ? seen - gap : seen + gap).toFixed(4));
			return edge >= 0 && edge <= fillMl ? [withPlunger(reading, field, edge)] : [];
		}
		case 'refill-missed':
			return refills > 0 ? [{ ...reading, refills: refills - 1 }] : [];
		case 'refill-extra':
			return [{ ...reading, refills: refills + 1 }];
		default:
			return [];
	}
}
