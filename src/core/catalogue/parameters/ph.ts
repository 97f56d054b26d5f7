import { PLAIN_UNITS, parameter, target, targetsOf } from '../parameter';
import { ratio } from '../unit';

export const ph = parameter({
	id: 'ph',
	title: 'pH',
	symbol: 'pH',
	hint: 'Swings through the day; note the hour.',
	place: 80,
	traits: ['always-shown'],

	unit: 'pH',
	units: [ratio('pH', 1)],
	possible: [-2, 16],
	plausible: [7.6, 8.6],
	shown: [7.4, 8.8],

	words: ['ph'],
	wordsElsewhere: [],
	onLabels: null,
	unitWords: { ph: 'pH' },
	...PLAIN_UNITS,

	restlessness: { level: 0.04, drift: 0.002, atFirst: 0.02, spread: 0.12, jump: 0.3 },
	routine: { new: 7, cycling: 7, young: 14, settled: 14 },
	youngDays: 14,

	sea: { value: 8.1, standardDeviation: 0.1, saltMix: null },
	ions: {},
	namesBottle: null,
	usualSalt: null,
	takenPerDkh: null,

	targets: targetsOf(target(7.8, 8.15, 8.4, [7.5, 8.7], 0.3)),
	targetsEarly: {}
});
