import { ATOM, MOLECULE } from '../../catalogue';
import type { Method, ShadesMethod } from '../../instruments';
import { TOXIC, add, draw, match, rinse, shake, wait } from './steps';

const CARD = 'Look from above, the vial on the card’s white, in daylight or white light.';
const WHEEL =
	'Put plain sample in the other place, so that the water’s own tint cancels; turn until both match.';
const BLOCK = 'Slide the block until vial and field match, looking from above.';

const comparator = (
	of: Pick<ShadesMethod, 'id' | 'name' | 'parameter' | 'unit' | 'shades'> & Partial<ShadesMethod>
): Method => ({ format: 'tevrik.method/1', reads: 'shades', form: 'card', ...of });

const NO3_LOW = [0, 0.5, 1, 2, 5, 10, 20];
/** The high-range column stands for a sample thinned 1 in 10. */
const NO3_THINNING = 10;

export const COMPARATORS: Method[] = [
	comparator({
		id: 'no3-card',
		name: 'Nitrate, card, low and high range',
		parameter: 'nitrate',
		unit: 'mg/L NO3',
		shades: NO3_LOW,
		columns: [{ name: 'high range, diluted 1 in 10', shades: NO3_LOW.map((s) => s * NO3_THINNING) }],
		steps: [
			rinse(),
			draw(10),
			add('one level spoon of reducing powder', TOXIC),
			shake(60),
			add('5 drops of dye reagent', TOXIC),
			shake(15),
			wait(300, 120),
			match(CARD)
		],
		pack: { tests: 50, price: 16 }
	}),
	comparator({
		id: 'no3-n-block',
		name: 'Nitrate as nitrogen, sliding block',
		parameter: 'nitrate',
		unit: 'mg/L NO3-N',
		form: 'block',
		shades: [0, 0.2, 0.5, 1, 2, 4, 8],
		columns: [
			{
				name: 'as NO₃',
				unit: 'mg/L NO3',
				shades: [0, 0.2, 0.5, 1, 2, 4, 8].map((n) => (n * MOLECULE.NO3) / ATOM.N)
			}
		],
		steps: [
			rinse(),
			draw(5),
			add('4 drops of reagent one', TOXIC),
			shake(20),
			add('one level spoon of reagent two', TOXIC),
			shake(60),
			wait(600, 180),
			match(BLOCK)
		],
		pack: { tests: 40, price: 15 }
	}),
	comparator({
		id: 'po4-wheel',
		name: 'Phosphate, wheel',
		parameter: 'phosphate',
		unit: 'mg/L PO4',
		form: 'wheel',
		shades: [0, 0.02, 0.05, 0.08, 0.12, 0.2, 0.4],
		steps: [
			rinse(),
			draw(10),
			add('4 drops of acid reagent', TOXIC),
			shake(10),
			add('one level spoon of powder'),
			shake(30),
			wait(300, 180),
			match(WHEEL)
		],
		pack: { tests: 40, price: 18 }
	}),
	comparator({
		id: 'nh4-card',
		name: 'Ammonia, card',
		parameter: 'ammonia',
		unit: 'mg/L NH4',
		shades: [0, 0.1, 0.25, 0.5, 1, 2, 4],
		steps: [
			rinse(),
			draw(5),
			add('6 drops of reagent one'),
			shake(5),
			add('6 drops of reagent two', TOXIC),
			shake(5),
			add('6 drops of reagent three'),
			wait(900, 300),
			match(CARD)
		],
		pack: { tests: 50, price: 9 }
	}),
	comparator({
		id: 'no2-card',
		name: 'Nitrite, card',
		parameter: 'nitrite',
		unit: 'mg/L NO2',
		shades: [0, 0.05, 0.1, 0.25, 0.5, 1, 2],
		steps: [
			rinse(),
			draw(5),
			add('5 drops of reagent one', TOXIC),
			shake(5),
			add('5 drops of reagent two'),
			wait(180, 120),
			match(CARD)
		],
		pack: { tests: 75, price: 8 }
	}),
	comparator({
		id: 'i-card',
		name: 'Iodine, card',
		parameter: 'iodine',
		unit: 'mg/L',
		shades: [0, 0.01, 0.03, 0.06, 0.09, 0.15],
		steps: [
			rinse(),
			draw(10),
			add('one level spoon of powder'),
			shake(20),
			add('3 drops of starter', TOXIC),
			wait(420, 30),
			match(CARD)
		],
		pack: { tests: 40, price: 17 }
	}),
	comparator({
		id: 'fe-card',
		name: 'Iron, card',
		parameter: 'iron',
		unit: 'mg/L',
		shades: [0, 0.02, 0.05, 0.1, 0.2, 0.5],
		steps: [rinse(), draw(10), add('5 drops of reagent', TOXIC), shake(10), wait(600, 300), match(CARD)],
		pack: { tests: 50, price: 10 }
	}),
	comparator({
		id: 'si-card',
		name: 'Silicate, card',
		parameter: 'silicate',
		unit: 'mg/L',
		shades: [0, 0.2, 0.4, 0.8, 1.5, 3],
		steps: [
			rinse(),
			draw(5),
			add('6 drops of acid reagent', TOXIC),
			shake(5),
			wait(300, 120),
			add('one level spoon of powder'),
			wait(300, 120),
			match(CARD)
		],
		pack: { tests: 60, price: 11 }
	}),
	comparator({
		id: 'sr-card',
		name: 'Strontium, card',
		parameter: 'strontium',
		unit: 'mg/L',
		shades: [0, 2, 5, 8, 12, 16],
		steps: [rinse(), draw(5), add('8 drops of reagent', TOXIC), shake(30), wait(600, 120), match(CARD)],
		pack: { tests: 25, price: 20 }
	})
];
