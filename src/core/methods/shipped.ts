import { CAO_PER_DEGREE, MOLECULE, ATOM } from '../quantities';
import type { Method } from './profile';

/** dKH for each mL of acid of `molar` mol/L run into `sampleMl` of water: one meq of acid meets one of alkalinity. */
export const alkalinityPerMl = (molar: number, sampleMl: number): number =>
	((molar * 1000) / sampleMl) * (MOLECULE.CaO / 2 / CAO_PER_DEGREE);

/** mg/L for each mL of a 1:1 complexing titrant of `molar` mol/L run into `sampleMl` of water. */
export const metalPerMl = (molar: number, sampleMl: number, mass: number): number =>
	((molar * 1000) / sampleMl) * mass;

/** Methods that come with Tevrik: generic, their factors following from titrant strength and sample volume. */
export const SHIPPED_METHODS: Method[] = [
	{
		format: 'tevrik.method/1',
		id: 'alk-syringe-6',
		name: 'Alkalinity, syringe, 6 mL',
		parameter: 'alkalinity',
		unit: 'dKH',
		reads: 'syringe',
		syringe: { fillMl: 1, graduationMl: 0.01, readAs: 'left' },
		// 0.036 mol/L acid.
		scale: { kind: 'linear', perMl: alkalinityPerMl(0.036, 6), atZero: 0 },
		samples: [
			{ id: 'full', ml: 6, times: 1 },
			{ id: 'half', ml: 3, times: 2 }
		],
		uncertainty: { sampleRelative: 0.015, titrantRelative: 0.01, dropMl: 0.012 },
		steps: [
			{ do: 'rinse', text: 'Rinse the vial with the water to be tested.' },
			{ do: 'measure', text: 'Draw 6 mL of the water into the vial.' },
			{ do: 'add', text: 'Add 3 drops of indicator.' },
			{ do: 'mix', text: 'Swirl.', seconds: 5 },
			{
				do: 'titrate',
				text: 'Fill the syringe so that the plunger’s edge stands at 1.00. Drip and swirl until blue has turned to rose and stays.',
				seconds: 90,
				caution: 'The titrant is a dilute acid: keep it off skin and eyes.'
			},
			{ do: 'read', text: 'Read the plunger’s edge.' }
		],
		pack: { tests: 90, price: 14.5 }
	},
	{
		format: 'tevrik.method/1',
		id: 'alk-syringe-4-used',
		name: 'Alkalinity, syringe, 4 mL, by what was used',
		parameter: 'alkalinity',
		unit: 'dKH',
		reads: 'syringe',
		syringe: { fillMl: 1, graduationMl: 0.02, readAs: 'used' },
		// 0.0285 mol/L acid.
		scale: { kind: 'linear', perMl: alkalinityPerMl(0.0285, 4), atZero: 0 },
		samples: [
			{ id: 'full', ml: 4, times: 1 },
			{ id: 'half', ml: 2, times: 2 }
		],
		uncertainty: { sampleRelative: 0.02, titrantRelative: 0.015, dropMl: 0.015 },
		pack: { tests: 60, price: 11 }
	},
	{
		format: 'tevrik.method/1',
		id: 'ca-syringe-5',
		name: 'Calcium, syringe, 5 mL',
		parameter: 'calcium',
		unit: 'mg/L',
		reads: 'syringe',
		syringe: { fillMl: 1, graduationMl: 0.01, readAs: 'left' },
		// 0.0625 mol/L complexing titrant.
		scale: { kind: 'linear', perMl: metalPerMl(0.0625, 5, ATOM.Ca), atZero: 0 },
		samples: [
			{ id: 'full', ml: 5, times: 1 },
			{ id: 'half', ml: 2.5, times: 2 }
		],
		uncertainty: { sampleRelative: 0.015, titrantRelative: 0.01, dropMl: 0.012 },
		steps: [
			{
				do: 'titrate',
				text: 'Drip and swirl until rose has turned to clear blue.',
				caution: 'The powder and the hardener are strongly alkaline: keep them off skin and eyes.'
			}
		],
		pack: { tests: 60, price: 19 }
	}
];
