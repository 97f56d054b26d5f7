import { ATOM } from '../masses';
import { NO_CHEMISTRY, NO_TARGETS, parameter } from '../parameter';
import { dissolved } from '../unit';
import { PER_LITRE } from '../words';

export const iodine = parameter({
	id: 'iodine',
	title: 'Iodine',
	symbol: 'I',
	hint: 'Used up fast; wide error.',
	place: 140,
	traits: ['solute', 'dosable'],

	unit: 'mg/L',
	units: dissolved(ATOM.I),
	possible: [0, 1e9],
	plausible: [0, 0.2],
	shown: [0, 0.2],

	words: ['iodine', 'iodide'],
	wordsElsewhere: [],
	unitSaid: {},
	onLabels: /\biodi[ndt]e?\b/gi,
	unitWords: PER_LITRE,
	unitsConfused: ['mg/L', 'ug/L'],
	unitBySize: [{ unit: 'ug/L', from: 1, to: Infinity, sure: false }],

	restlessness: { level: 0.003, drift: 0.0003, atFirst: 0.004, spread: 0.015, jump: 0.02 },
	routine: {},
	youngDays: 42,

	...NO_CHEMISTRY,
	...NO_TARGETS
});
