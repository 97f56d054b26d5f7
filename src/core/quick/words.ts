import { PARAMETERS, lexicon, type ParameterId } from '../catalogue';
import type { Quantity } from '../quantities';

/** What keepers call their parameters, in lower case. */
export const PARAMETER_WORDS = lexicon<ParameterId>(
	Object.fromEntries(PARAMETERS.flatMap(({ id, words }) => words.map((word) => [word, id])))
);

/** Unit words after a number, by parameter. `null`: could mean two units, and the keeper has to say which. */
export const UNIT_WORDS = Object.fromEntries(
	PARAMETERS.map(({ id, unitWords }) => [id, lexicon({ ...unitWords })])
) as Record<ParameterId, Record<string, string | null>>;

/** Unit words of what is no parameter: water, powders, glass. Where a gallon is not said to be another it is a US one. */
export const AMOUNT_WORDS = {
	volume: {
		l: 'L',
		litre: 'L',
		litres: 'L',
		liter: 'L',
		liters: 'L',
		ml: 'mL',
		gal: 'US gal',
		gallon: 'US gal',
		gallons: 'US gal',
		'us gallons': 'US gal',
		'uk gallons': 'UK gal',
		'imperial gallons': 'UK gal',
		'imp gal': 'UK gal'
	},
	mass: { g: 'g', gram: 'g', grams: 'g', kg: 'kg', oz: 'oz', lb: 'lb', lbs: 'lb', pounds: 'lb' },
	length: { cm: 'cm', mm: 'mm', m: 'm', in: 'in', inch: 'in', inches: 'in', ft: 'ft', feet: 'ft' }
} satisfies Partial<Record<Quantity, Record<string, string>>>;
