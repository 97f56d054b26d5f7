import type { Method } from '../../instruments';
import { TOXIC, add, draw, rinse, shake, wait } from './steps';

const press = (seconds = 5) => ({
	do: 'read' as const,
	text: 'Wipe the vial, put it in, press, read.',
	seconds,
	uses: 'meter'
});
const zero = { do: 'read' as const, text: 'Zero the meter with plain sample.', seconds: 20, uses: 'meter' };

export const INSTRUMENTS: Method[] = [
	{
		format: 'tevrik.method/1',
		id: 'alk-meter',
		name: 'Alkalinity, meter in ppm',
		parameter: 'alkalinity',
		unit: 'dKH',
		reads: 'display',
		display: { resolution: 1, absolute: 5, relative: 0.05, unit: 'ppm CaCO3', range: [0, 300] },
		steps: [rinse(), draw(10), zero, add('1 mL of reagent by its syringe'), shake(5), press()],
		pack: { tests: 25, price: 9 }
	},
	{
		format: 'tevrik.method/1',
		id: 'po4-meter',
		name: 'Phosphorus, meter in ppb',
		parameter: 'phosphate',
		unit: 'mg/L PO4',
		reads: 'display',
		display: { resolution: 1, absolute: 5, relative: 0.05, unit: 'ug/L P', range: [0, 200] },
		steps: [rinse(), draw(10), zero, add('one sachet of powder', TOXIC), shake(120), wait(180, 30), press()],
		pack: { tests: 25, price: 11 }
	},
	{
		format: 'tevrik.method/1',
		id: 'sg-refractometer',
		name: 'Salinity, refractometer',
		parameter: 'salinity',
		unit: 'PSU',
		reads: 'scale-line',
		display: {
			graduation: 0.001,
			absolute: 0.0005,
			unit: 'SG 25/25',
			range: [1, 1.031],
			form: 'refractometer'
		},
		steps: [
			{
				do: 'read',
				text: 'Two drops on the prism, close the flap, wait half a minute, read the line.',
				seconds: 40
			}
		],
		notes: 'Check with a standard of 35 PSU; wipe with purified water.'
	},
	{
		format: 'tevrik.method/1',
		id: 'psu-refractometer',
		name: 'Salinity, refractometer in PSU',
		parameter: 'salinity',
		unit: 'PSU',
		reads: 'scale-line',
		display: { graduation: 1, absolute: 0.5, unit: 'PSU', range: [0, 42], form: 'refractometer' },
		steps: [
			{
				do: 'read',
				text: 'Two drops on the prism, close the flap, wait half a minute, read the line.',
				seconds: 40
			}
		],
		notes: 'Check with a standard of 35 PSU; wipe with purified water.'
	},
	{
		format: 'tevrik.method/1',
		id: 'sg-hydrometer',
		name: 'Salinity, glass hydrometer',
		parameter: 'salinity',
		unit: 'PSU',
		reads: 'scale-line',
		display: {
			graduation: 0.0005,
			absolute: 0.0005,
			unit: 'SG 25/25',
			hydrometerC: 25,
			form: 'hydrometer',
			range: [1.01, 1.035]
		},
		steps: [
			{
				do: 'read',
				text: 'Let it float free of the wall, brush off bubbles, read at the level of the water, not the rim.',
				seconds: 60
			}
		],
		notes: 'Made for water of 25 °C; give the water’s temperature.'
	},
	{
		format: 'tevrik.method/1',
		id: 'conductivity',
		name: 'Salinity, conductivity',
		parameter: 'salinity',
		unit: 'PSU',
		reads: 'display',
		display: { resolution: 0.1, relative: 0.01, unit: 'mS/cm 25C', range: [0, 62] },
		steps: [{ do: 'read', text: 'Rinse the probe, stir, wait until the number stands, read.', seconds: 60 }]
	},
	{
		format: 'tevrik.method/1',
		id: 'ph-pen',
		name: 'pH, pen',
		parameter: 'ph',
		unit: 'pH',
		reads: 'display',
		display: { resolution: 0.01, absolute: 0.1, unit: 'pH', range: [0, 14] },
		steps: [
			{
				do: 'read',
				text: 'Rinse the pen, stir, wait until the number stands, read. Note the hour.',
				seconds: 60
			}
		]
	},
	{
		format: 'tevrik.method/1',
		id: 'thermometer',
		name: 'Temperature, thermometer',
		parameter: 'temperature',
		unit: 'C',
		reads: 'scale-line',
		display: { graduation: 0.5, absolute: 0.3, unit: 'C', form: 'thermometer', range: [10, 40] },
		steps: [{ do: 'read', text: 'Hold it in the water until it stands; read at eye level.', seconds: 60 }]
	}
];
