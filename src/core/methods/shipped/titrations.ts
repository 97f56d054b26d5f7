import { ATOM, CAO_PER_DEGREE, MOLECULE } from '../../catalogue';
import type { Method } from '../../instruments';
import { timesTaken } from '../take-away';
import { ACID, ALKALI, TOXIC, add, draw, drip, readPlunger, rinse, shake, swirl, titrate } from './steps';

/** dKH for each mL of acid of `molar` mol/L run into `sampleMl` of water: one meq of acid meets one of alkalinity. */
const alkalinityPerMl = (molar: number, sampleMl: number): number =>
	((molar * 1000) / sampleMl) * (MOLECULE.CaO / 2 / CAO_PER_DEGREE);

/** mg/L for each mL of a 1:1 titrant of `molar` mol/L run into `sampleMl` of water, of a metal of that molar mass. */
const metalPerMl = (molar: number, sampleMl: number, mass: number): number =>
	((molar * 1000) / sampleMl) * mass;

/** dGH for each mL of a 1:1 titrant: one degree is 10 mg/L of CaO. */
const hardnessPerMl = (molar: number, sampleMl: number): number =>
	metalPerMl(molar, sampleMl, MOLECULE.CaO) / CAO_PER_DEGREE;

/** One drop of a dropper bottle held upright, mL: 18 to 22 drops make 1 mL. */
const DROP_ML = 0.05;
const ONE_ML = { fillMl: 1, graduationMl: 0.01 } as const;
const sizes = (ml: number) => [
	{ id: 'full', ml, times: 1 },
	{ id: 'half', ml: ml / 2, times: 2 }
];

export const TITRATIONS: Method[] = [
	{
		format: 'tevrik.method/1',
		id: 'alk-syringe-6',
		name: 'Alkalinity, syringe, 6 mL',
		parameter: 'alkalinity',
		unit: 'dKH',
		reads: 'syringe',
		syringe: { ...ONE_ML, readAs: 'left' },
		scale: { kind: 'linear', perMl: alkalinityPerMl(0.036, 6), atZero: 0 },
		samples: sizes(6),
		uncertainty: { sampleRelative: 0.015, titrantRelative: 0.01, dropMl: 0.012 },
		steps: [
			rinse(),
			draw(6),
			add('3 drops of indicator'),
			swirl(5),
			{ ...titrate('blue has turned to rose'), caution: ACID },
			readPlunger()
		],
		pack: { tests: 90, price: 14.5 },
		notes: 'Titrant 0.036 mol/L acid.'
	},
	{
		format: 'tevrik.method/1',
		id: 'alk-syringe-4-used',
		name: 'Alkalinity, syringe, 4 mL, by what was used',
		parameter: 'alkalinity',
		unit: 'dKH',
		reads: 'syringe',
		syringe: { fillMl: 1, graduationMl: 0.02, readAs: 'used' },
		scale: { kind: 'linear', perMl: alkalinityPerMl(0.0285, 4), atZero: 0 },
		samples: sizes(4),
		uncertainty: { sampleRelative: 0.02, titrantRelative: 0.015, dropMl: 0.015 },
		steps: [
			rinse(),
			draw(4),
			add('2 drops of indicator'),
			swirl(5),
			{ ...titrate('green has turned to rose'), caution: ACID },
			readPlunger()
		],
		pack: { tests: 60, price: 11 },
		notes: 'Titrant 0.0285 mol/L acid.'
	},
	{
		format: 'tevrik.method/1',
		id: 'alk-drops',
		name: 'Alkalinity, drops',
		parameter: 'alkalinity',
		unit: 'dKH',
		reads: 'drops',
		countConfirming: true,
		scale: { kind: 'linear', perDrop: alkalinityPerMl(0.05, 10) * DROP_ML },
		samples: sizes(10),
		uncertainty: { sampleRelative: 0.02, titrantRelative: 0.015, dropRelative: 0.03 },
		steps: [rinse(), draw(10), { ...drip('blue has turned to yellow'), caution: ACID }],
		pack: { tests: 100, price: 8 },
		notes: 'Titrant 0.05 mol/L acid, drops of 0.05 mL.'
	},
	{
		format: 'tevrik.method/1',
		id: 'ca-syringe-5',
		name: 'Calcium, syringe, 5 mL',
		parameter: 'calcium',
		unit: 'mg/L',
		reads: 'syringe',
		syringe: { ...ONE_ML, readAs: 'left' },
		scale: { kind: 'linear', perMl: metalPerMl(0.0625, 5, ATOM.Ca), atZero: 0 },
		samples: sizes(5),
		uncertainty: { sampleRelative: 0.015, titrantRelative: 0.01, dropMl: 0.012 },
		steps: [
			rinse(),
			draw(5),
			add('6 drops of hardener', ALKALI),
			add('one level spoon of indicator powder'),
			swirl(15),
			titrate('rose has turned to clear blue'),
			readPlunger()
		],
		pack: { tests: 60, price: 19 },
		notes: 'Titrant 0.0625 mol/L complexing agent.'
	},
	{
		format: 'tevrik.method/1',
		id: 'ca-drops',
		name: 'Calcium, drops',
		parameter: 'calcium',
		unit: 'mg/L',
		reads: 'drops',
		countConfirming: false,
		scale: { kind: 'linear', perDrop: metalPerMl(0.0375, 5, ATOM.Ca) * DROP_ML },
		samples: sizes(5),
		uncertainty: { sampleRelative: 0.02, titrantRelative: 0.015, dropRelative: 0.03 },
		steps: [
			rinse(),
			draw(5),
			add('12 drops of hardener', ALKALI),
			add('5 drops of indicator'),
			swirl(10),
			drip('rose has turned to blue')
		],
		pack: { tests: 50, price: 12 },
		notes: 'Titrant 0.0375 mol/L complexing agent, drops of 0.05 mL. The confirming drop is not counted.'
	},
	{
		format: 'tevrik.method/1',
		id: 'mg-syringe-2',
		name: 'Magnesium, syringe, 2 mL',
		parameter: 'magnesium',
		unit: 'mg/L',
		reads: 'syringe',
		syringe: { ...ONE_ML, readAs: 'left' },
		scale: { kind: 'linear', perMl: metalPerMl(0.155, 2, ATOM.Mg), atZero: 0 },
		samples: sizes(2),
		uncertainty: { sampleRelative: 0.02, titrantRelative: 0.01, dropMl: 0.012 },
		steps: [
			rinse(),
			draw(2),
			add('5 drops of masking reagent', ALKALI),
			add('one level spoon of indicator powder'),
			swirl(20),
			titrate('rose has turned to grey-blue'),
			readPlunger()
		],
		pack: { tests: 50, price: 21 },
		notes: 'Titrant 0.155 mol/L complexing agent; calcium is masked.'
	},
	{
		format: 'tevrik.method/1',
		id: 'mg-after-ca',
		name: 'Magnesium, total less calcium',
		parameter: 'magnesium',
		unit: 'mg/L',
		reads: 'syringe',
		syringe: { ...ONE_ML, readAs: 'used' },
		scale: { kind: 'linear', perMl: metalPerMl(0.2, 2, ATOM.Mg), atZero: 0 },
		samples: [{ id: 'full', ml: 2, times: 1 }],
		uncertainty: { sampleRelative: 0.02, titrantRelative: 0.01, dropMl: 0.012 },
		// The total is titrated as if it were all magnesium: calcium counts in the ratio of the atoms.
		takeAway: { parameter: 'calcium', times: timesTaken('magnesium', 'calcium') },
		steps: [
			rinse(),
			draw(2),
			add('4 drops of buffer', ALKALI),
			add('one level spoon of indicator powder'),
			swirl(15),
			titrate('wine red has turned to blue'),
			readPlunger()
		],
		pack: { tests: 45, price: 17 },
		notes: 'Titrant 0.2 mol/L complexing agent. Needs calcium of the same water.'
	},
	{
		format: 'tevrik.method/1',
		id: 'mg-drops-total',
		name: 'Magnesium, total less calcium, drops',
		parameter: 'magnesium',
		unit: 'mg/L',
		reads: 'drops',
		countConfirming: false,
		scale: { kind: 'linear', perDrop: metalPerMl(0.1, 3, ATOM.Mg) * DROP_ML },
		samples: [{ id: 'full', ml: 3, times: 1 }],
		uncertainty: { sampleRelative: 0.02, titrantRelative: 0.015, dropRelative: 0.03 },
		takeAway: { parameter: 'calcium', times: timesTaken('magnesium', 'calcium') },
		steps: [
			rinse(),
			draw(3),
			add('3 drops of buffer', ALKALI),
			add('2 drops of indicator'),
			swirl(10),
			drip('violet has turned to green')
		],
		pack: { tests: 40, price: 12 },
		notes: 'Titrant 0.1 mol/L complexing agent, drops of 0.05 mL. Needs calcium of the same water.'
	},
	{
		format: 'tevrik.method/1',
		id: 'mg-same-vial',
		name: 'Magnesium, on in the calcium vial',
		parameter: 'magnesium',
		unit: 'mg/L',
		reads: 'syringe',
		syringe: { ...ONE_ML, readAs: 'used' },
		scale: { kind: 'linear', perMl: metalPerMl(0.375, 5, ATOM.Mg), atZero: 0 },
		samples: [{ id: 'full', ml: 5, times: 1 }],
		uncertainty: { sampleRelative: 0.015, titrantRelative: 0.012, dropMl: 0.014 },
		continues: 'calcium',
		steps: [
			add('6 drops of neutralizer to the calcium vial', ACID),
			swirl(5),
			add('one level spoon of second indicator'),
			swirl(15),
			titrate('rose has turned to clear blue again'),
			readPlunger()
		],
		pack: { tests: 60, price: 20 },
		notes: 'Titrant 0.375 mol/L complexing agent, into a vial whose calcium has just been titrated.'
	},
	{
		format: 'tevrik.method/1',
		id: 'k-drops-filter',
		name: 'Potassium, precipitate, filter and drops',
		parameter: 'potassium',
		unit: 'mg/L',
		reads: 'drops',
		countConfirming: true,
		// Half of the filtrate is titrated: what half of the sample held.
		scale: { kind: 'linear', perDrop: metalPerMl(0.00625, 2.5 / 2, ATOM.K) * DROP_ML },
		samples: [{ id: 'full', ml: 2.5, times: 1 }],
		uncertainty: { sampleRelative: 0.02, titrantRelative: 0.02, dropRelative: 0.02 },
		steps: [
			rinse(),
			draw(2.5),
			{ do: 'dilute', text: 'Top up to 10 mL with purified water.' },
			add('10 drops of precipitant', TOXIC),
			shake(30),
			{ do: 'wait', text: 'Let the cloud settle.', seconds: 600 },
			{ do: 'filter', text: 'Pour through the filter and let it run.', seconds: 900, uses: 'filter stand' },
			{ do: 'measure', text: 'Take exactly 5 mL of the filtrate.' },
			drip('yellow has turned to blue', 150)
		],
		pack: { tests: 25, price: 24 },
		notes: 'Titrant 0.00625 mol/L, drops of 0.05 mL.'
	},
	{
		format: 'tevrik.method/1',
		id: 'k-syringe-back',
		name: 'Potassium, syringe, titrated back',
		parameter: 'potassium',
		unit: 'mg/L',
		reads: 'syringe',
		syringe: { ...ONE_ML, readAs: 'used' },
		// What precipitant is left is titrated: the more is used, the less potassium there was.
		scale: {
			kind: 'table',
			by: 'used',
			points: [0, 0.2, 0.4, 0.6, 0.8, 1].map((used): [number, number] => [
				used,
				(1 - used) * metalPerMl(0.075, 4, ATOM.K)
			])
		},
		samples: [{ id: 'full', ml: 4, times: 1 }],
		uncertainty: { sampleRelative: 0.02, titrantRelative: 0.015, dropMl: 0.012 },
		steps: [
			rinse(),
			draw(4),
			add('1 mL of precipitant, exactly', TOXIC),
			shake(30),
			titrate('the cloud has turned rose', 120),
			readPlunger()
		],
		pack: { tests: 40, price: 22 },
		notes: 'Precipitant and titrant 0.075 mol/L, one to one.'
	},
	{
		format: 'tevrik.method/1',
		id: 'gh-drops',
		name: 'General hardness, drops',
		parameter: 'hardness',
		unit: 'dGH',
		reads: 'drops',
		countConfirming: true,
		scale: { kind: 'linear', perDrop: hardnessPerMl(0.01783, 5) * DROP_ML },
		samples: [{ id: 'full', ml: 5, times: 1 }],
		steps: [rinse(), draw(5), drip('red has turned to green')],
		pack: { tests: 60, price: 6 },
		notes:
			'Titrant 0.01783 mol/L complexing agent, drops of 0.05 mL. For tap and purified water; sea water needs diluting.'
	}
];
