import type { CardName, KitName } from './kits';

/** One thing to do in a lesson. */
export type Stage =
	| { do: 'fill'; kit: KitName }
	| {
			do: 'titrate';
			kit: KitName;
			/** What the water has, from where to where by chance, in the kit's unit. */
			value: [number, number];
			/** Share of the titrant that is in already. */
			start?: number;
			half?: true;
			phone?: true;
			/** The bottle comes into the hand this much aslant, degrees. */
			slant?: number;
	  }
	/** Reads what was titrated before, or a syringe that stands somewhere. */
	| { do: 'read'; kit: KitName; by: 'before' | 'chance' }
	| { do: 'pairs'; card: CardName; looks: number }
	/** Begins a comparator's clock, and reads it. */
	| { do: 'begin'; card: CardName }
	| { do: 'match'; card: CardName }
	| { do: 'precipitate' };

export interface Lesson {
	id: string;
	title: string;
	/** What hands do wrong, in a sentence. */
	why: string;
	minutes: number;
	stages: Stage[];
}

const CALCIUM: [number, number] = [370, 470];
const ALKALINITY: [number, number] = [6.2, 10.5];

/** In the order in which hands go wrong. */
export const LESSONS: Lesson[] = [
	{
		id: 'fill',
		title: 'Fill to the plunger’s edge',
		why: 'The liquid stands lower than the plunger; filled to the liquid, the number is too high by the air between.',
		minutes: 1,
		stages: [
			{ do: 'fill', kit: 'calcium' },
			{ do: 'fill', kit: 'alkalinity' }
		]
	},
	{
		id: 'drip',
		title: 'Drip, do not stream',
		why: 'A stream outruns mixing: the end has long passed when the colour shows it.',
		minutes: 2,
		stages: [
			{ do: 'titrate', kit: 'calcium', value: CALCIUM, start: 0.7 },
			{ do: 'read', kit: 'calcium', by: 'before' }
		]
	},
	{
		id: 'last-drop',
		title: 'The last drop',
		why: 'Some stop at the first tint, some go on to be sure. One drop is a real difference.',
		minutes: 2,
		stages: [
			{ do: 'titrate', kit: 'alkalinity', value: ALKALINITY, start: 0.86 },
			{ do: 'read', kit: 'alkalinity', by: 'before' }
		]
	},
	{
		id: 'between-lines',
		title: 'Between two lines',
		why: 'A plunger rarely stands on a line, and the digits are often upside down.',
		minutes: 1,
		stages: [
			{ do: 'read', kit: 'calcium', by: 'chance' },
			{ do: 'read', kit: 'alkalinity', by: 'chance' },
			{ do: 'read', kit: 'calcium', by: 'chance' },
			{ do: 'read', kit: 'calcium', by: 'chance' }
		]
	},
	{
		id: 'left-or-used',
		title: 'Left or used',
		why: 'Some charts go by what is left in the syringe, some by what was used. One for the other is the commonest slip.',
		minutes: 1,
		stages: [
			{ do: 'read', kit: 'calcium', by: 'chance' },
			{ do: 'read', kit: 'calciumUsed', by: 'chance' },
			{ do: 'read', kit: 'calciumUsed', by: 'chance' },
			{ do: 'read', kit: 'alkalinity', by: 'chance' }
		]
	},
	{
		id: 'half-sample',
		title: 'Half the sample',
		why: 'Half the water saves reagent, and one drop counts double.',
		minutes: 2,
		stages: [
			{ do: 'titrate', kit: 'calcium', value: CALCIUM, start: 0.75, half: true },
			{ do: 'read', kit: 'calcium', by: 'before' }
		]
	},
	{
		id: 'phone',
		title: 'Count while the phone rings',
		why: 'A bottle held aslant gives smaller drops, and a count is lost in a moment.',
		minutes: 2,
		stages: [
			{ do: 'titrate', kit: 'alkalinityDrops', value: [6.5, 9.5], phone: true, slant: 40 },
			{ do: 'read', kit: 'alkalinityDrops', by: 'before' }
		]
	},
	{
		id: 'pale-shades',
		title: 'Pale shades',
		why: 'The palest patches differ least, and a lamp can take the rest.',
		minutes: 2,
		stages: [
			{ do: 'pairs', card: 'nitrate', looks: 16 },
			{ do: 'begin', card: 'phosphate' },
			{ do: 'match', card: 'phosphate' }
		]
	},
	{
		id: 'by-difference',
		title: 'By difference',
		why: 'Magnesium is what is left when calcium is taken away: both errors are in it.',
		minutes: 2,
		stages: [
			{ do: 'titrate', kit: 'calcium', value: [412, 412], start: 0.92 },
			{ do: 'read', kit: 'calcium', by: 'before' },
			{ do: 'titrate', kit: 'total', value: [1180, 1420], start: 0.94 },
			{ do: 'read', kit: 'total', by: 'before' }
		]
	},
	{
		id: 'filter',
		title: 'Precipitate and filter',
		why: 'What has not fallen out, run through or been taken exactly is missing in the end.',
		minutes: 2,
		stages: [
			{ do: 'precipitate' },
			{ do: 'titrate', kit: 'potassiumDrops', value: [360, 430], start: 0.8, slant: 10 },
			{ do: 'read', kit: 'potassiumDrops', by: 'before' }
		]
	},
	{
		id: 'evening',
		title: 'A whole evening',
		why: 'The longest wait first, the others in its gap; and back in time.',
		minutes: 3,
		stages: [
			{ do: 'begin', card: 'nitrateBlock' },
			{ do: 'fill', kit: 'alkalinity' },
			{ do: 'titrate', kit: 'alkalinity', value: ALKALINITY, start: 0.6 },
			{ do: 'read', kit: 'alkalinity', by: 'before' },
			{ do: 'match', card: 'nitrateBlock' }
		]
	}
];
