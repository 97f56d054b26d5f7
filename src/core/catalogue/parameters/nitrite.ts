import { NO_CHEMISTRY, parameter, target, targetsOf } from '../parameter';
import { nitrogenOxide } from '../unit';
import { nitrogenWords } from '../words';

export const nitrite = parameter({
	id: 'nitrite',
	title: 'Nitrite',
	symbol: 'NO₂',
	hint: 'Only while a tank cycles; many skip it from their second tank on.',
	place: 110,
	traits: ['solute', 'poison', 'dosable', 'unit-chosen'],

	unit: 'mg/L NO2',
	units: nitrogenOxide('NO2'),
	possible: [0, 1e9],
	plausible: [0, 5],
	shown: [0, 5],

	words: ['no2', 'nitrite'],
	wordsElsewhere: ['nitrit'],
	unitSaid: {},
	onLabels: null,
	unitWords: nitrogenWords('NO2'),
	unitsConfused: ['mg/L NO2', 'mg/L NO2-N'],
	unitBySize: [],

	restlessness: { level: 0.05, drift: 0.01, atFirst: 0.1, spread: 0.05, jump: 0.5 },
	routine: { cycling: 2 },
	youngDays: 3,

	...NO_CHEMISTRY,

	targets: targetsOf(target(0, 0, 0.1, [0, 1], 0.1)),
	targetsEarly: { upper: 5, alarm: [0, 10] }
});
