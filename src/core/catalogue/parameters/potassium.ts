import { ATOM } from '../masses';
import { PLAIN_UNITS, parameter, target, targetsOf } from '../parameter';
import { dissolved } from '../unit';
import { PER_LITRE } from '../words';

export const potassium = parameter({
	id: 'potassium',
	title: 'Potassium',
	symbol: 'K',
	hint: 'Colour and growth where nutrients are low.',
	place: 40,
	traits: ['solute', 'ion', 'plannable', 'dosable', 'always-shown'],

	unit: 'mg/L',
	units: dissolved(ATOM.K),
	possible: [0, 1e9],
	plausible: [300, 480],
	shown: [280, 500],

	words: ['k', 'potassium'],
	wordsElsewhere: ['kalium'],
	onLabels: /\bpotassium\b|\bK\+?(?![\p{L}\d])/gu,
	unitWords: PER_LITRE,
	...PLAIN_UNITS,

	restlessness: { level: 1.5, drift: 0.08, atFirst: 2, spread: 12, jump: 30 },
	routine: { young: 28, settled: 35 },
	youngDays: 42,

	sea: { perKg: 399, standardDeviation: 12, saltMix: null },
	ions: { K: ATOM.K },
	namesBottle: 70,
	usualSalt: 'KCl',
	takenPerDkh: null,

	targets: targetsOf(target(380, 400, 420, [320, 480], 10)),
	targetsEarly: {}
});
