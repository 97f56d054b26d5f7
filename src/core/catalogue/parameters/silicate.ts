import { MOLECULE } from '../masses';
import { NO_CHEMISTRY, NO_TARGETS, parameter } from '../parameter';
import { dissolved } from '../unit';
import { PER_LITRE } from '../words';

export const silicate = parameter({
	id: 'silicate',
	title: 'Silicate',
	symbol: 'Si',
	hint: 'As SiO₂. Feeds diatoms; comes with tap water.',
	place: 160,
	traits: ['solute', 'dosable', 'in-tap-water'],

	unit: 'mg/L',
	units: dissolved(MOLECULE.SiO2),
	possible: [0, 1e9],
	plausible: [0, 4],
	shown: [0, 4],

	words: ['si', 'sio2', 'silicate'],
	wordsElsewhere: ['silikat'],
	unitSaid: {},
	onLabels: null,
	unitWords: PER_LITRE,
	unitsConfused: ['mg/L', 'ug/L'],
	unitBySize: [],

	restlessness: { level: 0.05, drift: 0.004, atFirst: 0.05, spread: 0.2, jump: 0.4 },
	routine: {},
	youngDays: 42,

	...NO_CHEMISTRY,
	...NO_TARGETS
});
