import { ATOM, MOLECULE } from '../masses';
import { parameter, target, targetsOf } from '../parameter';
import { ratio } from '../unit';

export const phosphate = parameter({
	id: 'phosphate',
	title: 'Phosphate',
	symbol: 'PO₄',
	hint: 'Feeds algae, slows skeleton.',
	place: 60,
	traits: ['solute', 'nutrient', 'plannable', 'dosable', 'in-tap-water', 'always-shown', 'unit-chosen'],

	unit: 'mg/L PO4',
	units: [
		ratio('mg/L PO4', 1),
		ratio('mg/L PO4-P', MOLECULE.PO4 / ATOM.P),
		ratio('ug/L PO4', 1e-3),
		ratio('ug/L P', (MOLECULE.PO4 / ATOM.P) * 1e-3),
		ratio('umol/L', MOLECULE.PO4 * 1e-3)
	],
	possible: [0, 1e9],
	plausible: [0, 0.5],
	shown: [0, 0.3],

	words: ['po4', 'phosphate', 'phosphorus'],
	wordsElsewhere: ['phosphat', 'fosfaat'],
	unitSaid: {},
	onLabels: /\bphosphates?\b|\bPO4\b/gi,
	unitWords: {
		'mg/l': 'mg/L PO4',
		ppm: 'mg/L PO4',
		po4: 'mg/L PO4',
		'ppm po4': 'mg/L PO4',
		'mg/l po4': 'mg/L PO4',
		'po4-p': 'mg/L PO4-P',
		'ppm po4-p': 'mg/L PO4-P',
		'mg/l po4-p': 'mg/L PO4-P',
		'ppb po4-p': 'ug/L P',
		'ug/l po4-p': 'ug/L P',
		'ppm p': 'mg/L PO4-P',
		'mg/l p': 'mg/L PO4-P',
		'ppb p': 'ug/L P',
		'ug/l p': 'ug/L P',
		'ppb po4': 'ug/L PO4',
		'ug/l po4': 'ug/L PO4',
		ppb: null,
		'ug/l': null,
		p: null,
		'umol/l': 'umol/L'
	},
	unitsConfused: ['mg/L PO4', 'mg/L PO4-P', 'ug/L PO4', 'ug/L P'],
	unitBySize: [{ unit: 'ug/L PO4', from: 2, to: Infinity, sure: false }],

	restlessness: { level: 0.005, drift: 0.0004, atFirst: 0.004, spread: 0.03, jump: 0.08 },
	routine: { young: 7, settled: 14 },
	youngDays: 28,

	sea: null,
	ions: { PO4: MOLECULE.PO4, HPO4: MOLECULE.PO4, H2PO4: MOLECULE.PO4 },
	namesBottle: 20,
	usualSalt: null,
	takenPerDkh: null,

	targets: targetsOf(target(0.02, 0.05, 0.1, [0, 0.5], 0.02), {
		'raised levels': target(0.03, 0.06, 0.1, [0, 0.5], 0.02),
		'low nutrients': target(0.01, 0.03, 0.06, [0, 0.4], 0.01),
		'fed tank': target(0.04, 0.08, 0.15, [0, 0.6], 0.02)
	}),
	targetsEarly: { lower: 0, upper: 0.3 }
});
