import { SHIPPED_METHODS, type RawReading } from '../methods';
import { drawKitBias, observeTrue } from './instrument';
import { normal, uniform } from './random';
import { simulateMinerals, type Minerals, type Upkeep } from './tank';

/**
 * The demo: Odile keeps two tanks in a boathouse on Fennick Water. The Long Gallery is settled, grown for stony corals
 * and dosed; its use has crept up and the doser has not followed. The Windowsill is a small young tank that lives on
 * water changes. All of it is invented and simulated from a seed.
 */
export interface DemoReading {
	at: Date;
	method: string;
	reading: RawReading;
}

export interface DemoSystem {
	name: string;
	netVolumeL: number;
	phase: 'new' | 'cycling' | 'young' | 'settled';
	school: string;
	bands: Record<string, { lower: number; upper: number }>;
	sources: { kind: 'tank' | 'new mix' | 'reference'; name: string }[];
	readings: DemoReading[];
}

export interface Demo {
	keeper: string;
	timeZone: string;
	systems: DemoSystem[];
}

const DAY = 86_400_000;
const SEED = 20_26;

interface Plan extends Omit<DemoSystem, 'readings'> {
	days: number;
	upkeep: Upkeep;
	/** Which method on which days, counted back from today: the newest test is `ago` days old, then every so many days. */
	tests: { method: string; ago: number; everyDays: number }[];
}

const PLANS: Plan[] = [
	{
		name: 'Long Gallery',
		netVolumeL: 380,
		phase: 'settled',
		school: 'raised levels',
		bands: { alkalinity: { lower: 7.8, upper: 9.2 }, calcium: { lower: 400, upper: 450 } },
		sources: [
			{ kind: 'tank', name: 'Long Gallery' },
			{ kind: 'new mix', name: 'Mixing bin' },
			{ kind: 'reference', name: 'Reference solution' }
		],
		days: 210,
		upkeep: {
			start: { alkalinity: 8.5, calcium: 428, magnesium: 1335 },
			newWater: { alkalinity: 8.8, calcium: 432, magnesium: 1340 },
			use: 0.62,
			growth: 1.1,
			dosing: [
				{ fromDay: 0, perDay: 0.65 },
				{ fromDay: 75, perDay: 0.705 },
				{ fromDay: 150, perDay: 0.725 }
			],
			change: { everyDays: 14, fraction: 0.1 },
			wobble: 0.12
		},
		tests: [
			{ method: 'alk-syringe-6', ago: 3, everyDays: 5 },
			{ method: 'ca-syringe-5', ago: 3, everyDays: 15 }
		]
	},
	{
		name: 'Windowsill',
		netVolumeL: 54,
		phase: 'young',
		school: 'low nutrients',
		bands: { alkalinity: { lower: 6.5, upper: 8 }, calcium: { lower: 400, upper: 450 } },
		sources: [
			{ kind: 'tank', name: 'Windowsill' },
			{ kind: 'new mix', name: 'Mixing bin' }
		],
		days: 96,
		upkeep: {
			start: { alkalinity: 7.4, calcium: 421, magnesium: 1302 },
			newWater: { alkalinity: 7.6, calcium: 424, magnesium: 1310 },
			use: 0.035,
			growth: 1.2,
			dosing: [],
			change: { everyDays: 7, fraction: 0.15 },
			wobble: 0.3
		},
		tests: [{ method: 'alk-syringe-4-used', ago: 6, everyDays: 7 }]
	}
];

/** The demo as it stands at `now`: the same moment gives the same data. */
export function demoUpTo(now: Date): Demo {
	return {
		keeper: 'Odile',
		timeZone: 'Europe/Dublin',
		systems: PLANS.map((plan, i) => simulate(plan, now, SEED + i))
	};
}

function simulate(plan: Plan, now: Date, seed: number): DemoSystem {
	const random = uniform(seed);
	const gauss = normal(random);
	const levels = simulateMinerals(plan.upkeep, plan.days, gauss);
	const readings = plan.tests.flatMap(({ method: id, ago, everyDays }) => {
		const method = SHIPPED_METHODS.find((m) => m.id === id)!;
		const bias = drawKitBias(method, { random, gauss });
		const made: DemoReading[] = [];
		for (let back = ago; back <= plan.days; back += everyDays + Math.round(random() * 2 - 1)) {
			const at = evening(now, back, random);
			const truth = levels[plan.days - back]![method.parameter as keyof Minerals];
			made.push({ at, method: id, reading: observeTrue(method, truth, bias, { random, gauss }) });
		}
		return made;
	});
	const { days: _days, upkeep: _upkeep, tests: _tests, ...system } = plan;
	return { ...system, readings: readings.sort((a, b) => a.at.getTime() - b.at.getTime()) };
}

/** Between half past six and nine in the evening (UTC) of the day so many days ago, and never in the future. */
function evening(now: Date, daysAgo: number, random: () => number): Date {
	const midnight = Math.floor(now.getTime() / DAY) * DAY;
	const at = midnight - daysAgo * DAY + (18.5 + 2.5 * random()) * 3_600_000;
	return new Date(Math.min(Math.round(at / 60_000) * 60_000, now.getTime()));
}
