import { NO_CHEMISTRY, parameter, target, targetsOf } from '../parameter';
import { ratio } from '../unit';

export const temperature = parameter({
	id: 'temperature',
	title: 'Temperature',
	symbol: 'T',
	hint: 'Of the water.',
	place: 90,
	traits: ['signed', 'unit-chosen'],

	unit: 'C',
	units: [ratio('C', 1), { name: 'F', toBase: (f) => (f - 32) / 1.8, fromBase: (c) => c * 1.8 + 32 }],
	possible: [-273.15, 1000],
	plausible: [21, 29],
	shown: [20, 30],

	words: ['temp', 't', 'temperature'],
	wordsElsewhere: ['temperatur', 'température'],
	unitSaid: {},
	onLabels: null,
	unitWords: { c: 'C', '°c': 'C', f: 'F', '°f': 'F' },
	unitsConfused: ['C', 'F'],
	unitBySize: [{ unit: 'F', from: 45, to: Infinity, sure: true }],

	restlessness: { level: 0.2, drift: 0.005, atFirst: 0.1, spread: 0.7, jump: 2.5 },
	routine: { new: 3, cycling: 7, young: 7, settled: 14 },
	youngDays: 7,

	...NO_CHEMISTRY,

	targets: targetsOf(target(24, 25.2, 26.5, [21, 29], 1)),
	targetsEarly: {}
});
