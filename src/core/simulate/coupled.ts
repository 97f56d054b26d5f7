import { DAY } from '../base';
import { el, normal, uniform } from '../statistics';

/** A tank tested as keepers do (alkalinity weekly, calcium and magnesium monthly, salinity fortnightly), its truth known. */
interface CoupledTank {
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

/** How a tank uses what is dosed; none is a random walk of the model's own size. All but `apart` are coupled. */
export const COUPLED_LAWS = [
	/** Pulled back to a mean that steps now and then, by skeleton alone. */
	'pulled back',
	'walks',
	'swings with the season',
	'grows',
	'steps',
	/** Something else takes alkalinity from some day on: the coupling holds no more. */
	'a sink begins',
	/** Of the calcium that is written a sixth does not arrive: a tired pump. */
	'one is dosed short',
	'rough',
	/** Calcium goes with alkalinity in a ratio of its own: other skeleton, another mix. */
	'another ratio'
] as const;
export type CoupledLaw = (typeof COUPLED_LAWS)[number] | 'apart';

/** Days for which a use is simulated. */
const LONGEST = 400;

/** Use of each day, as a share of its mean. */
function useBy(law: CoupledLaw, random: () => number, gauss: () => number): number[] {
	const days = Array.from({ length: LONGEST }, (_, day) => day);
	if (
		law === 'walks' ||
		law === 'rough' ||
		law === 'a sink begins' ||
		law === 'one is dosed short' ||
		law === 'another ratio'
	) {
		let at = 1;
		return days.map(() => Math.max(0, (at += 0.015 * gauss())));
	}
	if (law === 'swings with the season') {
		const phase = 2 * Math.PI * random();
		return days.map((day) => 1 + 0.12 * Math.sin(phase + day / 22));
	}
	if (law === 'grows') {
		const rate = 0.004 * random();
		return days.map((day) => Math.exp(rate * (day - 100)));
	}
	if (law === 'steps') {
		let at = 1;
		return days.map(() => {
			if (random() < 1 / 45) at = Math.min(1.3, Math.max(0.7, at + 0.12 * gauss()));
			return at;
		});
	}
	// Ornstein and Uhlenbeck's process about a level that steps.
	const keep = Math.exp(-1 / 20);
	let off = 0.08 * gauss();
	let level = 1;
	return days.map(() => {
		const use = Math.max(0, level + off);
		off = off * keep + 0.08 * Math.sqrt(1 - keep * keep) * gauss();
		if (random() < 1 / 60) level = Math.min(1.25, Math.max(0.8, level + 0.07 * gauss()));
		return use;
	});
}

/**
 * Simulates a tank whose use follows a law. Coupled: what skeleton takes of alkalinity it takes of calcium and magnesium in
 * ratio, and salinity thins and thickens all. Apart: each goes its own way.
 */
export function simulateCoupled(seed: number, law: CoupledLaw, days = 168): CoupledTank {
	const random = uniform(seed);
	const gauss = normal(random);
	const coupled = law !== 'apart';
	const at = (day: number) => new Date(START + Math.round(day * DAY)).toISOString();
	const mean = 0.4 + 0.5 * random();
	const ratio = law === 'another ratio' ? 0.75 + 0.55 * random() : 1;
	const common = useBy(law, random, gauss);
	const [forCalcium, forMagnesium] = coupled
		? [common, common]
		: [useBy(law, random, gauss), useBy(law, random, gauss)];
	const sink =
		law === 'a sink begins' ? { from: days * (0.6 + 0.33 * random()), perDay: 0.05 + 0.1 * random() } : null;
	const arrives = law === 'one is dosed short' ? 5 / 6 : 1;
	const rough = law === 'rough' ? 2.5 : 1;
	const levels: Record<string, number[]> = { alkalinity: [], calcium: [], magnesium: [], salinity: [] };
	let [alk, ca, mg] = [7.5 + 1.5 * random(), 405 + 40 * random(), 1270 + 100 * random()];
	let salt = 0.3 * gauss();
	const events: CoupledTank['events'] = [];
	let dosing = mean;
	const dose = (day: number) => {
		events.push({ at: at(day), kind: 'dosing', parameter: 'alkalinity', perDay: dosing });
		events.push({ at: at(day), kind: 'dosing', parameter: 'calcium', perDay: dosing * CALCIUM * ratio });
	};
	dose(0);
	const saltKeep = Math.exp(-1 / (12 * STEPS));
	for (let step = 0; step <= (days + AHEAD + 1) * STEPS; step++) {
		const day = step / STEPS;
		const thick = coupled ? (35 + salt) / 35 : 1;
		levels['alkalinity']!.push(alk * thick);
		levels['calcium']!.push(ca * thick);
		levels['magnesium']!.push(mg * thick);
		levels['salinity']!.push(35 + salt);
		const k = Math.floor(day);
		const lost = sink && day > sink.from ? sink.perDay : 0;
		const own = rough / Math.sqrt(STEPS);
		alk += (dosing - mean * el(common, k) - lost) / STEPS + 0.02 * own * gauss();
		ca += (CALCIUM * ratio * (arrives * dosing - mean * el(forCalcium, k))) / STEPS + 0.4 * own * gauss();
		mg += (-MAGNESIUM * mean * el(forMagnesium, k)) / STEPS + 0.8 * own * gauss();
		salt = salt * saltKeep + 0.3 * Math.sqrt(1 - saltKeep * saltKeep) * gauss();
		if (step > 0 && step % (14 * STEPS) === 0) {
			const newWater = { alkalinity: 8.2, calcium: 425, magnesium: 1330 };
			alk += 0.1 * (newWater.alkalinity - alk);
			ca += 0.1 * (newWater.calcium - ca);
			mg += 0.1 * (newWater.magnesium - mg);
			events.push({ at: at(day), kind: 'water-change', fraction: 0.1, newWater });
			// A keeper trims the dosing pump where alkalinity has run off.
			if (Math.abs(alk - 8.2) > 0.5 && day < days) {
				dosing = Math.max(0, dosing + (8.2 - alk) / 20);
				dose(day);
			}
		}
	}
	const truth = (parameter: string, day: number): number => {
		const list = levels[parameter]!;
		const i = Math.max(0, Math.min(list.length - 2, Math.floor(day * STEPS)));
		return el(list, i) + (day * STEPS - i) * (el(list, i + 1) - el(list, i));
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
	return {
		parameters,
		events: events.filter((e) => Date.parse(e.at) <= Date.parse(at(days))),
		now: at(days),
		levelIn: (parameter, ahead) => truth(parameter, days + ahead)
	};
}
