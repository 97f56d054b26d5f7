import { ATOM } from '../masses';
import { NO_TARGETS, PLAIN_UNITS, parameter } from '../parameter';
import { dissolved } from '../unit';
import { PER_LITRE } from '../words';

export const strontium = parameter({
	id: 'strontium',
	title: 'Strontium',
	symbol: 'Sr',
	hint: 'Built into skeleton beside calcium.',
	place: 130,
	traits: ['solute', 'ion', 'plannable', 'dosable'],

	unit: 'mg/L',
	units: dissolved(ATOM.Sr),
	possible: [0, 1e9],
	plausible: [2, 20],
	shown: [0, 20],

	words: ['sr', 'strontium'],
	wordsElsewhere: [],
	onLabels: /\bstrontium\b|\bSr(?:2\+|²⁺)?(?![\p{L}\d])/gu,
	unitWords: PER_LITRE,
	...PLAIN_UNITS,

	restlessness: { level: 0.15, drift: 0.01, atFirst: 0.15, spread: 0.8, jump: 2 },
	routine: {},
	youngDays: 42,

	sea: { perKg: 7.9, standardDeviation: 0.5, saltMix: null },
	ions: { Sr: ATOM.Sr },
	namesBottle: 30,
	usualSalt: 'SrCl2.6H2O',
	takenPerDkh: null,

	...NO_TARGETS
});
