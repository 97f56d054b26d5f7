import { ATOM, MOLECULE } from '../masses';
import { NO_CHEMISTRY, parameter, target, targetsOf } from '../parameter';
import { ratio } from '../unit';

export const ammonia = parameter({
	id: 'ammonia',
	title: 'Ammonia',
	symbol: 'NH₄',
	hint: 'Only while a tank cycles, or when something died.',
	place: 100,
	traits: ['solute', 'poison', 'dosable', 'unit-chosen'],

	unit: 'mg/L NH4',
	units: [
		ratio('mg/L NH4', 1),
		ratio('mg/L NH3', MOLECULE.NH4 / MOLECULE.NH3),
		ratio('mg/L NH-N', MOLECULE.NH4 / ATOM.N),
		ratio('umol/L', MOLECULE.NH4 * 1e-3)
	],
	possible: [0, 1e9],
	plausible: [0, 4],
	shown: [0, 4],

	words: ['nh4', 'nh3', 'ammonia', 'ammonium'],
	wordsElsewhere: ['ammonium'],
	unitSaid: {},
	onLabels: null,
	unitWords: {
		'mg/l': 'mg/L NH4',
		ppm: 'mg/L NH4',
		nh4: 'mg/L NH4',
		'ppm nh4': 'mg/L NH4',
		'mg/l nh4': 'mg/L NH4',
		nh3: 'mg/L NH3',
		'ppm nh3': 'mg/L NH3',
		'mg/l nh3': 'mg/L NH3',
		n: 'mg/L NH-N',
		'as n': 'mg/L NH-N',
		'ppm n': 'mg/L NH-N',
		'mg/l n': 'mg/L NH-N',
		'nh4-n': 'mg/L NH-N',
		'ppm nh4-n': 'mg/L NH-N',
		'mg/l nh4-n': 'mg/L NH-N',
		'nh3-n': 'mg/L NH-N',
		'ppm nh3-n': 'mg/L NH-N',
		'mg/l nh3-n': 'mg/L NH-N'
	},
	unitsConfused: ['mg/L NH4', 'mg/L NH3', 'mg/L NH-N'],
	unitBySize: [],

	restlessness: { level: 0.05, drift: 0.01, atFirst: 0.1, spread: 0.05, jump: 0.5 },
	routine: { cycling: 2 },
	youngDays: 3,

	...NO_CHEMISTRY,

	targets: targetsOf(target(0, 0, 0.1, [0, 0.5], 0.1)),
	targetsEarly: { upper: 4, alarm: [0, 8] }
});
