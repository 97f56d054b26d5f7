import { parameter, target, targetsOf } from '../parameter';
import { equivalents } from '../unit';

export const alkalinity = parameter({
	id: 'alkalinity',
	title: 'Alkalinity',
	symbol: 'Alk',
	hint: 'What corals build skeleton from. It falls fastest; steady matters more than the exact number.',
	place: 10,
	traits: ['solute', 'ion', 'coupled', 'plannable', 'dosable', 'in-tap-water', 'always-shown', 'unit-chosen'],

	unit: 'dKH',
	units: equivalents('dKH'),
	possible: [0, 1e9],
	plausible: [5, 13],
	shown: [4, 14],

	words: ['alk', 'alkalinity', 'kh', 'dkh'],
	wordsElsewhere: ['alkalinität', 'alcalinité', 'karbonathärte'],
	unitSaid: {},
	onLabels: /\balk\w*|carbonate hardness|\bKH\b/gi,
	unitWords: {
		dkh: 'dKH',
		'°dkh': 'dKH',
		kh: 'dKH',
		'°': 'dKH',
		'meq/l': 'meq/L',
		meq: 'meq/L',
		ppm: 'ppm CaCO3',
		'mg/l': 'ppm CaCO3',
		caco3: 'ppm CaCO3',
		'ppm caco3': 'ppm CaCO3',
		'mg/l caco3': 'ppm CaCO3'
	},
	unitsConfused: ['dKH', 'ppm CaCO3', 'meq/L'],
	unitBySize: [
		{ unit: 'ppm CaCO3', from: 40, to: Infinity, sure: true },
		{ unit: 'meq/L', from: -Infinity, to: 4, sure: true },
		{ unit: 'meq/L', from: -Infinity, to: 4.6, sure: false },
		{ unit: 'dKH', from: -Infinity, to: 5, sure: false }
	],

	restlessness: { level: 0.06, drift: 0.012, atFirst: 0.25, spread: 0.6, jump: 1.5 },
	routine: { new: 7, young: 5, settled: 7 },
	youngDays: 21,

	sea: { perKg: 2.3, standardDeviation: 0.5, saltMix: { value: 8.5, standardDeviation: 1.5 } },
	ions: {},
	namesBottle: 40,
	usualSalt: 'NaHCO3',
	takenPerDkh: 1,

	targets: targetsOf(target(6.5, 7.2, 8, [5.5, 12], 0.5), {
		'raised levels': target(8, 8.7, 9.5, [6, 12], 0.5),
		'low nutrients': target(6.5, 7.2, 8, [5.5, 10], 0.5),
		'fed tank': target(7.5, 8.3, 9.5, [6, 12], 0.5)
	}),
	targetsEarly: {}
});
