import { DAY, HOUR, MINUTE } from '../base';
import { type RawReading } from '../instruments';
import { SHIPPED_METHODS } from '../methods';
import { convert } from '../quantities';
import { CALCIUM_PER_DKH, parameterOf } from '../catalogue';
import type { DatedEvent } from '../trend';
import { drawKitBias, observeTrue } from './instrument';
import { normal, uniform } from '../statistics';
import { simulateMinerals, simulateWandering, type Upkeep, type Wandering } from './tank';

/**
 * The demo: Odile keeps two tanks in a boathouse on Fennick Water. The Long Gallery is settled, grown for stony corals
 * and dosed; its use has crept up and the dosing pump has not followed. The Windowsill is a small young tank that lives on
 * water changes. All of it is invented and simulated from a seed.
 */
interface DemoReading {
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
	events: DatedEvent[];
}

/** A box of reagents in use: marked with a letter, opened so many days ago. */
interface DemoPack {
	method: string;
	label: string;
	batch: string;
	opened: Date;
	bestBefore: Date;
}

interface Demo {
	packs: DemoPack[];
	keeper: string;
	timeZone: string;
	systems: DemoSystem[];
}

const SEED = 20_30;

interface Plan extends Omit<DemoSystem, 'readings' | 'events'> {
	days: number;
	upkeep: Upkeep;
	/** Everything that is not built into skeleton, in the parameter's own unit. */
	others: Record<string, Wandering>;
	/** Which method on which days, counted back from today: the newest test is `ago` days old, then every so many days. */
	tests: { method: string; ago: number; everyDays: number }[];
}

const PLANS: Plan[] = [
	{
		name: 'Long Gallery',
		netVolumeL: 380,
		phase: 'settled',
		school: 'raised levels',
		bands: {
			alkalinity: { lower: 7.8, upper: 9.2 },
			calcium: { lower: 400, upper: 450 },
			magnesium: { lower: 1250, upper: 1400 },
			potassium: { lower: 380, upper: 420 },
			nitrate: { lower: 2, upper: 15 },
			phosphate: { lower: 0.02, upper: 0.1 },
			salinity: { lower: 34, upper: 36 },
			ph: { lower: 7.9, upper: 8.4 },
			temperature: { lower: 24, upper: 26.5 }
		},
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
			{ method: 'alk-syringe-6', ago: 6, everyDays: 5 },
			{ method: 'ca-syringe-5', ago: 27, everyDays: 15 },
			{ method: 'mg-syringe-2', ago: 27, everyDays: 28 },
			{ method: 'k-drops-filter', ago: 33, everyDays: 35 },
			{ method: 'no3-card', ago: 13, everyDays: 12 },
			{ method: 'po4-meter', ago: 13, everyDays: 12 },
			{ method: 'sg-refractometer', ago: 6, everyDays: 7 },
			{ method: 'ph-pen', ago: 6, everyDays: 10 },
			{ method: 'thermometer', ago: 3, everyDays: 10 }
		],
		others: {
			potassium: { mean: 398, drift: -4, spread: 6, halfLife: 40 },
			nitrate: { mean: 4, drift: 2.5, spread: 1.2, halfLife: 15 },
			phosphate: { mean: 0.06, drift: 0.02, spread: 0.015, halfLife: 12 },
			salinity: { mean: 35.1, drift: -0.2, spread: 0.3, halfLife: 10 },
			ph: { mean: 8.12, drift: 0, spread: 0.08, halfLife: 3 },
			temperature: { mean: 25.2, drift: 0.1, spread: 0.3, halfLife: 6 }
		}
	},
	{
		name: 'Windowsill',
		netVolumeL: 54,
		phase: 'young',
		school: 'low nutrients',
		bands: {
			alkalinity: { lower: 6.5, upper: 8 },
			calcium: { lower: 400, upper: 450 },
			nitrate: { lower: 0.5, upper: 5 },
			phosphate: { lower: 0.01, upper: 0.06 },
			salinity: { lower: 34, upper: 36 }
		},
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
		tests: [
			{ method: 'alk-syringe-4-used', ago: 6, everyDays: 7 },
			{ method: 'ca-drops', ago: 13, everyDays: 21 },
			{ method: 'no3-n-block', ago: 6, everyDays: 14 },
			{ method: 'po4-wheel', ago: 6, everyDays: 14 },
			{ method: 'sg-hydrometer', ago: 6, everyDays: 7 },
			{ method: 'nh4-card', ago: 70, everyDays: 5 },
			{ method: 'no2-card', ago: 70, everyDays: 5 }
		],
		others: {
			nitrate: { mean: 2, drift: 1, spread: 0.8, halfLife: 10 },
			phosphate: { mean: 0.04, drift: -0.01, spread: 0.012, halfLife: 10 },
			salinity: { mean: 34.6, drift: 0.5, spread: 0.4, halfLife: 6 },
			// The end of its cycle: it began high and is nothing by now.
			ammonia: { mean: 0.3, drift: -2, spread: 0.1, halfLife: 6 },
			nitrite: { mean: 0.4, drift: -2.4, spread: 0.1, halfLife: 6 }
		}
	}
];

/** Opened so many days ago, good for so many more. */
const PACKS: (Omit<DemoPack, 'opened' | 'bestBefore'> & { openedAgo: number; keeps: number })[] = [
	{ method: 'alk-syringe-6', label: 'A', batch: '0417', openedAgo: 160, keeps: 240 },
	{ method: 'ca-syringe-5', label: 'B', batch: '0388', openedAgo: 200, keeps: 120 },
	{ method: 'mg-syringe-2', label: 'C', batch: '0292', openedAgo: 200, keeps: -12 },
	{ method: 'no3-card', label: 'D', batch: '1105', openedAgo: 120, keeps: 300 },
	{ method: 'po4-meter', label: 'E', batch: '0911', openedAgo: 130, keeps: 400 },
	{ method: 'alk-syringe-4-used', label: 'F', batch: '0550', openedAgo: 90, keeps: 500 }
];

/** The demo as it stands at `now`: the same moment gives the same data. */
export function demoUpTo(now: Date): Demo {
	return {
		keeper: 'Odile',
		timeZone: 'Europe/Dublin',
		packs: PACKS.map(({ openedAgo, keeps, ...pack }) => ({
			...pack,
			opened: new Date(now.getTime() - openedAgo * DAY),
			bestBefore: new Date(now.getTime() + keeps * DAY)
		})),
		systems: PLANS.map((plan, i) => simulate(plan, now, SEED + i))
	};
}

function simulate(plan: Plan, now: Date, seed: number): DemoSystem {
	const random = uniform(seed);
	const gauss = normal(random);
	const minerals = simulateMinerals(plan.upkeep, plan.days, gauss);
	const others = Object.fromEntries(
		Object.entries(plan.others).map(([parameter, of]) => [parameter, simulateWandering(of, plan.days, gauss)])
	);
	const levelOf = (parameter: string, day: number): number =>
		others[parameter]?.[day] ?? (minerals[day] as unknown as Record<string, number>)[parameter]!;
	const readings = plan.tests.flatMap(({ method: id, ago, everyDays }) => {
		const method = SHIPPED_METHODS.find((m) => m.id === id)!;
		const unit = parameterOf(method.parameter)!.unit;
		const bias = drawKitBias(method, { random, gauss });
		const made: DemoReading[] = [];
		for (let back = ago; back <= plan.days; back += Math.max(1, everyDays + Math.round(random() * 2 - 1))) {
			const at = evening(now, back, random);
			const level = levelOf(method.parameter, plan.days - back);
			const truth = convert({ quantity: method.parameter, value: level, from: unit, to: method.unit });
			if (!truth.ok) throw new Error(JSON.stringify(truth.problems));
			made.push({ at, method: id, reading: observeTrue(method, truth.value.value, bias, { random, gauss }) });
		}
		return made;
	});
	const { days: _days, upkeep: _upkeep, others: _others, tests: _tests, ...system } = plan;
	return {
		...system,
		readings: readings.sort((a, b) => a.at.getTime() - b.at.getTime()),
		events: eventsOf(plan, now)
	};
}

/** What the keeper did, as the simulation did it: the dosing pump's settings and the water changes. */
function eventsOf({ upkeep, days }: Plan, now: Date): DatedEvent[] {
	const midnight = Math.floor(now.getTime() / DAY) * DAY;
	const at = (day: number) => new Date(midnight - (days - day) * DAY + 9 * HOUR).toISOString();
	const dosing = upkeep.dosing.flatMap(({ fromDay, perDay }): DatedEvent[] => [
		{
			at: at(fromDay),
			kind: 'dosing',
			parameter: 'alkalinity',
			perDay,
			supplement: 'carbonate, by the dosing pump'
		},
		{
			at: at(fromDay),
			kind: 'dosing',
			parameter: 'calcium',
			perDay: Math.round(perDay * CALCIUM_PER_DKH * 100) / 100,
			supplement: 'calcium, by the dosing pump'
		}
	]);
	const changes: DatedEvent[] = [];
	for (let day = upkeep.change.everyDays; day < days; day += upkeep.change.everyDays)
		changes.push({
			at: at(day + 0.4),
			kind: 'water-change',
			fraction: upkeep.change.fraction,
			newWater: { ...upkeep.newWater }
		});
	return [...dosing, ...changes].sort((a, b) => a.at.localeCompare(b.at));
}

/** Between half past six and nine in the evening (UTC) of the day so many days ago, and never in the future. */
function evening(now: Date, daysAgo: number, random: () => number): Date {
	const midnight = Math.floor(now.getTime() / DAY) * DAY;
	const at = midnight - daysAgo * DAY + (18.5 + 2.5 * random()) * HOUR;
	return new Date(Math.min(Math.round(at / MINUTE) * MINUTE, now.getTime()));
}
