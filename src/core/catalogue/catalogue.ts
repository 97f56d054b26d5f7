import * as records from './parameters/all';
import { NO_CHEMISTRY, NO_TARGETS, PLAIN_UNITS, type Parameter, type Trait } from './parameter';
import { ratio } from './unit';

export type ParameterId = (typeof records)[keyof typeof records]['id'];
export type KnownParameter = Parameter & { id: ParameterId };

/** Every parameter Tevrik knows, in the order of lists. */
export const PARAMETERS: readonly KnownParameter[] = Object.values(records).sort((a, b) => a.place - b.place);

/**
 * The parameter of that name, or undefined for one of the keeper's own.
 *
 * @example parameterOf('alkalinity').unit // → 'dKH'
 */
export const parameterOf = (id: string): KnownParameter | undefined => PARAMETERS.find((p) => p.id === id);

/**
 * A parameter of a keeper's own, of which no more is known than its name and unit.
 *
 * @example ownParameter('Redox', 'mV').title // → 'Redox'
 */
export const ownParameter = (id: string, unit: string): Parameter => ({
	id,
	title: id,
	symbol: id.slice(0, 4),
	hint: '',
	place: Infinity,
	traits: [],
	unit,
	units: [ratio(unit, 1)],
	possible: [-Infinity, Infinity],
	plausible: [-Infinity, Infinity],
	shown: [0, 1],
	words: [],
	wordsElsewhere: [],
	onLabels: null,
	unitWords: {},
	...PLAIN_UNITS,
	restlessness: { level: 0, drift: 0, atFirst: 0, spread: 0, jump: 0 },
	routine: {},
	youngDays: 42,
	...NO_CHEMISTRY,
	...NO_TARGETS
});

/**
 * Whether a parameter has a trait; one of the keeper's own has none.
 *
 * @example hasTrait('nitrite', 'poison') // → true
 */
export const hasTrait = (id: string, trait: Trait): boolean =>
	parameterOf(id)?.traits.includes(trait) ?? false;

/**
 * Whether it is thinned with its water, as warmth and acidity are not; one of the keeper's own is taken to be.
 *
 * @example isSolute('ph') // → false
 */
export const isSolute = (id: string): boolean => !parameterOf(id) || hasTrait(id, 'solute');

/**
 * All that have a trait, in the order of lists.
 *
 * @example parametersWith('metal') // → ['calcium', 'magnesium']
 */
export const parametersWith = (trait: Trait): ParameterId[] =>
	PARAMETERS.filter((p) => p.traits.includes(trait)).map((p) => p.id);

/** What a plan brings home: salinity before what goes with it. */
export const PLANNED: readonly ParameterId[] = [
	'salinity',
	...parametersWith('plannable').filter((id) => id !== 'salinity')
];

/**
 * What a parameter is called where a name stands alone; one of the keeper's own by its id.
 *
 * @example titleOf('ph') // → 'pH'
 */
export const titleOf = (id: string): string => parameterOf(id)?.title ?? id;

/**
 * What a parameter is called within a sentence: small, but a symbol as it is written.
 *
 * @example nameInSentence('ph') // → 'pH'
 */
export const nameInSentence = (id: string): string => inSentence(titleOf(id));
/** A title within a sentence: small, but what begins small ("pH") as it is written. */
export const inSentence = (title: string): string => (/^[A-Z]/.test(title) ? title.toLowerCase() : title);
