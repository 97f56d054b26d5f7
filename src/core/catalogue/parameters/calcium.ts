import { ATOM, CALCIUM_PER_DKH } from '../masses';
import { PLAIN_UNITS, parameter, target, targetsOf } from '../parameter';
import { dissolved } from '../unit';
import { PER_LITRE } from '../words';

export const calcium = parameter({
	id: 'calcium',
	title: 'Calcium',
	symbol: 'Ca',
	hint: 'Skeleton. Falls in step with alkalinity: 7.15 mg/L for each dKH.',
	place: 20,
	traits: ['solute', 'ion', 'metal', 'coupled', 'plannable', 'dosable', 'in-tap-water', 'always-shown'],

	unit: 'mg/L',
	units: dissolved(ATOM.Ca),
	possible: [0, 1e9],
	plausible: [320, 520],
	shown: [300, 550],

	words: ['ca', 'calcium'],
	wordsElsewhere: ['kalzium', 'calcio'],
	onLabels: /\bcalcium\b|\bCa(?:2\+|²⁺|\+\+)?(?![\p{L}\d])/gu,
	unitWords: PER_LITRE,
	...PLAIN_UNITS,

	restlessness: { level: 1.2, drift: 0.1, atFirst: 2.5, spread: 12, jump: 40 },
	routine: { new: 14, young: 7, settled: 28 },
	youngDays: 42,

	sea: { perKg: 412, standardDeviation: 12, saltMix: null },
	ions: { Ca: ATOM.Ca },
	namesBottle: 50,
	usualSalt: 'CaCl2',
	takenPerDkh: CALCIUM_PER_DKH,

	targets: targetsOf(target(400, 425, 450, [350, 520], 20), {
		'raised levels': target(410, 430, 460, [350, 520], 20)
	}),
	targetsEarly: {}
});
