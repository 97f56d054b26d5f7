import { bad, good, type Outcome } from '../problems';
import { PARAMETERS, type ParameterId } from '../quantities';
import { amountIn } from '../quick';
import type { Label } from './supplement';

/** "1 mL in 100 L raises 0.25 dKH": an amount, a water, a rise, in the words of bottles. */
const SHAPE =
	/^\s*([\d.,]+)\s*(ml|millilit\w+|g|grams?|gr)\b.*?\b(?:in|per|to|for|treats)\s+([\d.,]+\s*[a-z ]*?(?:l|lit\w+|gal\w*))\b(.*)$/i;
/** No label says more in a sentence. */
const LONGEST = 200;
/** Units of a rise, as labels write them, and what they are of where that is plain. */
const RISES: [RegExp, string, ParameterId | undefined][] = [
	[/\bdkh\b|°\s*dkh|\bkh\b/i, 'dKH', 'alkalinity'],
	[/\bmeq\b/i, 'meq/L', 'alkalinity'],
	[/caco3/i, 'ppm CaCO3', 'alkalinity'],
	[/\bmg\s*\/?\s*l\b|\bppm\b|\bmg\b/i, 'mg/L', undefined]
];
const NAMED: [RegExp, ParameterId][] = [
	[/alk|carbonate hard/i, 'alkalinity'],
	[/calc|\bca\b/i, 'calcium'],
	[/magn|\bmg2?\+?\b(?!\s*\/?\s*l)/i, 'magnesium'],
	[/pota|\bk\b/i, 'potassium'],
	[/stront|\bsr\b/i, 'strontium'],
	[/nitrat|\bno3\b/i, 'nitrate'],
	[/phosph|\bpo4\b/i, 'phosphate'],
	[/iod/i, 'iodine'],
	[/iron|\bfe\b/i, 'iron']
];
const MASS_UNITS: Partial<Record<ParameterId, string>> = { nitrate: 'mg/L NO3', phosphate: 'mg/L PO4' };

const numberIn = (text: string): number => Number(text.replace(',', '.'));

/**
 * A label's sentence as its numbers. `parameter`: what it raises, where the sentence does not say; gallons are US ones unless said.
 * Problems: what is missing of it.
 *
 * @example labelIn('1 mL in 100 L raises alkalinity by 0.25 dKH').value.waterL // → 100
 */
export function labelIn(text: string, parameter?: string): Outcome<Label> {
	const match = SHAPE.exec(text.slice(0, LONGEST));
	if (!match) return bad('', 'is read like this: 1 mL in 100 L raises alkalinity by 0.25 dKH');
	const [, amountText = '', unitText = '', waterText = '', rise = ''] = match;
	const amount = numberIn(amountText);
	const waterL = amountIn(waterText, 'volume', 'L');
	const number = /[\d.,]*\d/.exec(rise)?.[0];
	const value = number === undefined ? undefined : numberIn(number);
	if (!amount || !(amount > 0)) return bad('', 'must begin with how much is poured, such as 1 mL');
	if (!waterL.ok) return bad('', `must say into how much water: ${waterL.problems[0]?.message ?? ''}`);
	if (!value || !(value > 0)) return bad('', 'must say by how much it rises, such as 0.25 dKH');
	const known = RISES.find(([shape]) => shape.test(rise));
	const named = NAMED.find(([shape]) => shape.test(rise.replace(/mg\s*\/?\s*l|\bppm\b/gi, '')))?.[1];
	const of = named ?? known?.[2] ?? parameter;
	if (!of) return bad('', 'must say what rises: alkalinity, calcium, magnesium, potassium');
	const own = PARAMETERS.find((p) => p.id === of)?.unit ?? 'mg/L';
	const unit =
		of === 'alkalinity'
			? known?.[1] === 'mg/L'
				? 'ppm CaCO3'
				: (known?.[1] ?? 'dKH')
			: known?.[1] === 'mg/L' || !known
				? (MASS_UNITS[of as ParameterId] ?? own)
				: known[1];
	return good({
		amount,
		unit: /^g/i.test(unitText) ? 'g' : 'mL',
		waterL: waterL.value,
		raises: { parameter: of, value, unit }
	});
}
