import { MOLECULE } from '../masses';
import { parameter, target, targetsOf } from '../parameter';
import { nitrogenOxide } from '../unit';
import { nitrogenWords } from '../words';

export const nitrate = parameter({
	id: 'nitrate',
	title: 'Nitrate',
	symbol: 'NO₃',
	hint: 'Food for algae and corals. A long zero invites pests.',
	place: 50,
	traits: ['solute', 'nutrient', 'plannable', 'dosable', 'in-tap-water', 'always-shown', 'unit-chosen'],

	unit: 'mg/L NO3',
	units: nitrogenOxide('NO3'),
	possible: [0, 1e9],
	plausible: [0, 60],
	shown: [0, 50],

	words: ['no3', 'nitrate'],
	wordsElsewhere: ['nitrat', 'nitraat'],
	unitSaid: {},
	onLabels: /\bnitrates?\b|\bNO3\b/gi,
	unitWords: nitrogenWords('NO3'),
	unitsConfused: ['mg/L NO3', 'mg/L NO3-N'],
	unitBySize: [],

	restlessness: { level: 0.35, drift: 0.03, atFirst: 0.5, spread: 3, jump: 8 },
	routine: { cycling: 4, young: 7, settled: 14 },
	youngDays: 28,

	sea: null,
	ions: { NO3: MOLECULE.NO3 },
	namesBottle: 10,
	usualSalt: null,
	takenPerDkh: null,

	targets: targetsOf(target(1, 4, 10, [0, 50], 2.5), {
		'raised levels': target(2, 6, 15, [0, 50], 2.5),
		'low nutrients': target(0.2, 1, 5, [0, 40], 1),
		'fed tank': target(5, 10, 25, [0, 60], 5)
	}),
	targetsEarly: { lower: 0, upper: 50 }
});
