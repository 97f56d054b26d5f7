import { ATOM } from '../masses';
import { NO_CHEMISTRY, NO_TARGETS, parameter } from '../parameter';
import { dissolved } from '../unit';
import { PER_LITRE } from '../words';

export const iron = parameter({
	id: 'iron',
	title: 'Iron',
	symbol: 'Fe',
	hint: 'Feeds algae kept on purpose; wide error.',
	place: 150,
	traits: ['solute', 'dosable'],

	unit: 'mg/L',
	units: dissolved(ATOM.Fe),
	possible: [0, 1e9],
	plausible: [0, 0.3],
	shown: [0, 0.3],

	words: ['fe', 'iron'],
	wordsElsewhere: [],
	unitSaid: {},
	onLabels: /\biron\b|\bFe(?:2\+|3\+)?(?![\p{L}\d])/gu,
	unitWords: PER_LITRE,
	unitsConfused: ['mg/L', 'ug/L'],
	unitBySize: [{ unit: 'ug/L', from: 1, to: Infinity, sure: false }],

	restlessness: { level: 0.004, drift: 0.0003, atFirst: 0.004, spread: 0.01, jump: 0.02 },
	routine: {},
	youngDays: 42,

	...NO_CHEMISTRY,
	...NO_TARGETS
});
