import { ATOM, CALCIUM_PER_DKH } from '../masses';
import { PLAIN_UNITS, parameter, target, targetsOf } from '../parameter';
import { dissolved } from '../unit';
import { PER_LITRE } from '../words';

/** Magnesium built into skeleton and coralline algae, as a share of the calcium, by amount: about a tenth. */
const MAGNESIUM_SHARE = 0.1;

export const magnesium = parameter({
	id: 'magnesium',
	title: 'Magnesium',
	symbol: 'Mg',
	hint: 'Keeps calcium and alkalinity from falling out together.',
	place: 30,
	traits: ['solute', 'ion', 'metal', 'coupled', 'plannable', 'dosable', 'in-tap-water', 'always-shown'],

	unit: 'mg/L',
	units: dissolved(ATOM.Mg),
	possible: [0, 1e9],
	plausible: [1050, 1550],
	shown: [1000, 1600],

	words: ['mg', 'magnesium'],
	wordsElsewhere: ['magnésium'],
	onLabels: /\bmagnesium\b|\bMg(?:2\+|²⁺|\+\+)?(?![\p{L}\d/]|\s*\/)/gu,
	unitWords: PER_LITRE,
	...PLAIN_UNITS,

	restlessness: { level: 2.5, drift: 0.15, atFirst: 3, spread: 30, jump: 90 },
	routine: { new: 14, young: 14, settled: 28 },
	youngDays: 42,

	sea: { perKg: 1284, standardDeviation: 35, saltMix: null },
	ions: { Mg: ATOM.Mg },
	namesBottle: 60,
	usualSalt: 'MgCl2.6H2O',
	takenPerDkh: (CALCIUM_PER_DKH / ATOM.Ca) * ATOM.Mg * MAGNESIUM_SHARE,

	targets: targetsOf(target(1250, 1330, 1400, [1100, 1600], 50)),
	targetsEarly: {}
});
