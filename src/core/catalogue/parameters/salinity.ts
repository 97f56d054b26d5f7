import { parameter, target, targetsOf } from '../parameter';
import {
	MAX_SALINITY,
	conductivityOf,
	salinityFromConductivity,
	salinityFromSpecificGravity,
	specificGravity
} from '../salinity-scales';
import { ratio, type Unit } from '../unit';

/** Specific gravity t/t, read at its reference temperature in °C. */
const gravity = (name: string, t: number): Unit => ({
	name,
	toBase: (sg) => salinityFromSpecificGravity(sg, t),
	fromBase: (salinity) => specificGravity(salinity, t)
});

export const salinity = parameter({
	id: 'salinity',
	title: 'Salinity',
	symbol: 'Sal',
	hint: 'Every other number scales with it: correct it first.',
	place: 70,
	traits: ['solute', 'coupled', 'plannable', 'in-tap-water', 'always-shown', 'unit-chosen'],

	unit: 'PSU',
	units: [
		ratio('PSU', 1),
		gravity('SG 25/25', 25),
		gravity('SG 20/20', 20),
		gravity('SG 60/60F', (60 - 32) / 1.8),
		{
			name: 'mS/cm 25C',
			toBase: (c) => salinityFromConductivity(c, 25),
			fromBase: (s) => conductivityOf(s, 25)
		}
	],
	possible: [0, MAX_SALINITY],
	plausible: [28, 39],
	shown: [28, 40],

	words: ['sg', 'sal', 'salinity', 'cond', 'conductivity'],
	wordsElsewhere: ['salinität', 'salinité', 'dichte', 'density', 'gravity', 'salt', 'leitwert'],
	unitSaid: {
		dichte: 'SG 25/25',
		density: 'SG 25/25',
		gravity: 'SG 25/25',
		leitwert: 'mS/cm 25C',
		cond: 'mS/cm 25C',
		conductivity: 'mS/cm 25C'
	},
	onLabels: null,
	unitWords: {
		psu: 'PSU',
		ppt: 'PSU',
		'‰': 'PSU',
		sg: 'SG 25/25',
		ms: 'mS/cm 25C',
		'ms/cm': 'mS/cm 25C'
	},
	unitsConfused: [],
	unitBySize: [
		{ unit: 'SG 25/25', from: 0.95, to: 1.1, sure: true },
		{ unit: 'mS/cm 25C', from: 43, to: Infinity, sure: true }
	],

	restlessness: { level: 0.1, drift: 0.005, atFirst: 0.1, spread: 0.7, jump: 2.5 },
	routine: { new: 3, cycling: 7, young: 7, settled: 7 },
	youngDays: 21,

	sea: { value: 35, standardDeviation: 1, saltMix: null },
	ions: {},
	namesBottle: null,
	usualSalt: null,
	takenPerDkh: null,

	targets: targetsOf(target(34, 35, 36, [30, 39], 1.3)),
	targetsEarly: {}
});
