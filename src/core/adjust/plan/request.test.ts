import { expect, it } from 'vitest';
import { targets } from '../../targets';
import { requestOf, type KnownTank } from './request';
import { LABELLED } from '../../../../tests/support/plans';

const chosen = targets({ school: 'natural levels', phase: 'settled' });
if (!chosen.ok) throw new Error('no targets');

const trend = (unit: string, value: number, netPerDay = 0) => ({
	unit,
	now: { value, standardDeviation: 0.1 },
	netPerDay: { value: netPerDay, standardDeviation: 0.02 },
	assumes: []
});
const tank: KnownTank = {
	now: '2026-05-06T20:00:00Z',
	tank: {
		netVolumeL: 200,
		netVolumeError: null,
		sizes: null,
		salinityPsu: 35,
		waterChange: { water: { alkalinity: 8 }, largestFraction: 0.2, everyDays: 7 }
	},
	trends: { alkalinity: trend('dKH', 7, -0.1), nitrate: trend('mg/L', 40), calcium: trend('mg/L', 420) },
	judgements: [
		{ kind: 'odd', parameter: 'alkalinity' },
		{ kind: 'unknown', parameter: 'calcium' }
	],
	bands: { alkalinity: { lower: 7.5, upper: 8.5 }, nitrate: { lower: 1, upper: 10 } },
	targets: chosen.value.targets,
	events: [],
	shelf: []
};
const asked = (more: Partial<KnownTank> = {}, wish: Partial<Parameters<typeof requestOf>[1]> = {}) =>
	requestOf({ ...tank, ...more }, { days: 14, ...wish });

it('asks for what has a level, a target and a band, with what is doubted of it', () => {
	const { parameters, water } = asked();
	expect(parameters.map((p) => [p.parameter, p.odd, p.unproved])).toEqual([
		['alkalinity', true, false],
		['nitrate', false, false]
	]);
	expect(parameters[0]!.usePerDay.mean).toBeCloseTo(0.1, 12);
	// Food may go by a quarter a day, where that is more than is healthy to add.
	expect(parameters[1]!.healthyPerDay.down).toBe(10);
	// Nobody measured the volume, the salinity or the temperature.
	expect(water).toEqual({
		volumeL: { value: 200, standardUncertainty: (0.15 * 200) / Math.sqrt(3) },
		salinity: 35,
		temperatureC: 25
	});
});

it('counts what a dosing pump gives as use, and takes its bottle along even where it is to be left alone', () => {
	const shelf = [
		{ id: 'other', profile: LABELLED, left: 500 },
		{ id: 'soda', profile: LABELLED, left: null }
	];
	const events: KnownTank['events'] = [30, 40].map((mlPerDay, day) => ({
		at: `2026-05-0${day + 1}T20:00:00Z`,
		kind: 'dosing',
		parameter: 'alkalinity',
		perDay: 0.75,
		supplementId: 'soda',
		mlPerDay
	}));
	const { parameters, dosing, supplements } = asked({ shelf, events }, { without: ['soda', 'other'] });
	expect(dosing).toEqual([{ supplement: 'soda', mlPerDay: 40 }]);
	// 40 mL in 200 L: 1 dKH a day, and it still falls by 0.1.
	expect(parameters[0]!.usePerDay.mean).toBeCloseTo(1.1, 9);
	expect(supplements.map((s) => [s.id, s.stock])).toEqual([['soda', 0]]);
});

it('keeps only wishes that can be: no moved change where none is made, none beyond the last day', () => {
	const moves = [
		{ from: 1, to: 3 },
		{ from: 1, to: 20 }
	];
	expect(asked({}, { moves }).moves).toEqual([{ from: 1, to: 3 }]);
	const never = asked({}, { moves, noChangeBefore: 'never' });
	expect(never.change).toBeUndefined();
	expect(never.moves).toBeUndefined();
	expect(asked({}, { noChangeBefore: 5 }).change?.notBefore).toBe(5);
	expect(asked({ tank: { ...tank.tank, salinityPsu: 5 } }).water.salinity).toBe(19);
});
