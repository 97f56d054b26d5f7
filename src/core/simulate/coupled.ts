import { normal, uniform } from '../statistics';

/** A tank tested as keepers do (alkalinity weekly, calcium and magnesium monthly, salinity fortnightly), its truth known. */
export interface CoupledTank {
	parameters: Record<
		string,
		{ unit: string; readings: { at: string; value: number; standardUncertainty: number }[] }
	>;
	events: (
		| { at: string; kind: 'dosing'; parameter: string; perDay: number }
		| { at: string; kind: 'water-change'; fraction: number; newWater: Record<string, number> }
	)[];
	now: string;
	levelIn: (parameter: string, days: number) => number;
}

const DAY = 86_400_000;
const START = Date.parse('2026-01-01T12:00:00Z');
const STEPS = 4;
const AHEAD = 30;
/** mg/L of calcium for a dKH, and of magnesium: a tenth of calcium's moles. */
const CALCIUM = 7.15;
const MAGNESIUM = 0.434;
const TESTS: [parameter: string, unit: string, everyDays: number, error: number][] = [
	['alkalinity', 'dKH', 7, 0.15],
	['calcium', 'mg/L', 28, 8],
	['magnesium', 'mg/L', 28, 25],
	['salinity', 'PSU', 14, 0.4]
];

/**
 * Simulates a tank whose use is pulled back to a mean that steps now and then (not a random walk). Coupled: what skeleton takes of
 * alkalinity it takes of calcium and magnesium in ratio, and salinity thins and thickens all. Otherwise each goes its own way.
 */
export function simulateCoupled(seed: number, coupled: boolean, days = 168): CoupledTank {
	const random = uniform(seed);
	const gauss = normal(random);
	const at = (day: number) => new Date(START + Math.round(day * DAY)).toISOString();
	/** Use in dKH a day, as a share of its mean: Ornstein and Uhlenbeck's process about a level that steps. */
	const useOf = () => {
		let off = 0.08 * gauss();
		let level = 1;
		const days: number[] = [];
		const keep = Math.exp(-1 / 20);
		for (let day = 0; day < 400; day++) {
			days.push(Math.max(0, level + off));
			off = off * keep + 0.08 * Math.sqrt(1 - keep * keep) * gauss();
			if (random() < 1 / 60) level = Math.min(1.25, Math.max(0.8, level + 0.07 * gauss()));
		}
		return days;
	};
	const mean = 0.4 + 0.5 * random();
	const common = useOf();
	const [forCalcium, forMagnesium] = coupled ? [common, common] : [useOf(), useOf()];
	const levels: Record<string, number[]> = { alkalinity: [], calcium: [], magnesium: [], salinity: [] };
	let [alk, ca, mg] = [7.5 + 1.5 * random(), 405 + 40 * random(), 1270 + 100 * random()];
	let salt = 0.3 * gauss();
	const events: CoupledTank['events'] = [
		{ at: at(0), kind: 'dosing', parameter: 'alkalinity', perDay: mean },
		{ at: at(0), kind: 'dosing', parameter: 'calcium', perDay: mean * CALCIUM }
	];
	let dosing = mean;
	const saltKeep = Math.exp(-1 / (12 * STEPS));
	for (let step = 0; step <= (days + AHEAD + 1) * STEPS; step++) {
		const day = step / STEPS;
		const thick = coupled ? (35 + salt) / 35 : 1;
		levels['alkalinity']!.push(alk * thick);
		levels['calcium']!.push(ca * thick);
		levels['magnesium']!.push(mg * thick);
		levels['salinity']!.push(35 + salt);
		const k = Math.floor(day);
		alk += (dosing - mean * common[k]!) / STEPS + (0.02 * gauss()) / Math.sqrt(STEPS);
		ca += (CALCIUM * (dosing - mean * forCalcium[k]!)) / STEPS + (0.4 * gauss()) / Math.sqrt(STEPS);
		mg += (-MAGNESIUM * mean * forMagnesium[k]!) / STEPS + (0.8 * gauss()) / Math.sqrt(STEPS);
		salt = salt * saltKeep + 0.3 * Math.sqrt(1 - saltKeep * saltKeep) * gauss();
		if (step > 0 && step % (14 * STEPS) === 0 && day < days) {
			const newWater = { alkalinity: 8.2, calcium: 425, magnesium: 1330 };
			alk += 0.1 * (newWater.alkalinity - alk);
			ca += 0.1 * (newWater.calcium - ca);
			mg += 0.1 * (newWater.magnesium - mg);
			events.push({ at: at(day), kind: 'water-change', fraction: 0.1, newWater });
			// A keeper trims the doser where alkalinity has run off.
			if (Math.abs(alk - 8.2) > 0.5) {
				dosing = Math.max(0, dosing + (8.2 - alk) / 20);
				events.push({ at: at(day), kind: 'dosing', parameter: 'alkalinity', perDay: dosing });
				events.push({ at: at(day), kind: 'dosing', parameter: 'calcium', perDay: dosing * CALCIUM });
			}
		}
	}
	const truth = (parameter: string, day: number): number => {
		const list = levels[parameter]!;
		const i = Math.max(0, Math.min(list.length - 2, Math.floor(day * STEPS)));
		return list[i]! + (day * STEPS - i) * (list[i + 1]! - list[i]!);
	};
	const parameters: CoupledTank['parameters'] = {};
	for (const [parameter, unit, everyDays, error] of TESTS) {
		const readings = [];
		for (let day = everyDays * random() * 0.9; day <= days; day += everyDays * (0.9 + 0.2 * random()))
			readings.push({
				at: at(day),
				value: truth(parameter, day) + error * gauss(),
				standardUncertainty: error
			});
		parameters[parameter] = { unit, readings };
	}
	return { parameters, events, now: at(days), levelIn: (parameter, ahead) => truth(parameter, days + ahead) };
}
