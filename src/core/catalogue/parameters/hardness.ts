import { NO_CHEMISTRY, NO_TARGETS, parameter } from '../parameter';
import { equivalents } from '../unit';

export const hardness = parameter({
	id: 'hardness',
	title: 'General hardness',
	symbol: 'GH',
	hint: 'Calcium and magnesium together; of use for tap and purified water.',
	place: 120,
	traits: ['solute', 'in-tap-water', 'unit-chosen'],

	unit: 'dGH',
	units: equivalents('dGH'),
	possible: [0, 1e9],
	plausible: [0, 450],
	shown: [0, 450],

	words: ['gh', 'hardness'],
	wordsElsewhere: [],
	unitSaid: {},
	onLabels: null,
	unitWords: {
		dgh: 'dGH',
		gh: 'dGH',
		ppm: 'ppm CaCO3',
		'mg/l': 'ppm CaCO3',
		'ppm caco3': 'ppm CaCO3',
		'meq/l': 'meq/L'
	},
	unitsConfused: ['dGH', 'ppm CaCO3'],
	unitBySize: [],

	restlessness: { level: 2, drift: 0.1, atFirst: 2, spread: 15, jump: 40 },
	routine: {},
	youngDays: 42,

	...NO_CHEMISTRY,
	...NO_TARGETS
});
