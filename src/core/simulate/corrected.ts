import { DAY, HOUR } from '../base';
import { correct, dose, type CorrectRequest, type PlanStep, type Solver, type Supplement } from '../adjust';
import { normal, uniform } from '../statistics';
import { targets } from '../targets';
import { trend, type TrendEvent, type TrendReading } from '../trend';

/** What became of a tank in a month under somebody's hands. */
export interface Month {
	/** Days on which a level was truly out of its band, counted for each level. */
	daysOut: number;
	/** Days on which what was poured moved a level by more than a healthy day, less what was used; and days in all, for each level. */
	tooFast: number;
	days: number;
	/** Days out of an alarm into which the hands had brought it: by what they did, or by not doing what a keeper does. */
	alarms: number;
	/** Most above the upper limit, in bands, beyond where it began. */
	overshoot: number;
	millilitres: number;
	pours: number;
	tests: number;
}

/** How a tank's use goes on: never as the model supposes. */
export const USE_LAWS = ['constant', 'wanders', 'grows', 'weekly', 'steps'] as const;
type UseLaw = (typeof USE_LAWS)[number];

interface Kept {
	parameter: string;
	unit: string;
	/** Of one test, and what stays with the kit. */
	error: number;
	trueness: number;
	everyDays: number;
	use: [number, number];
	from: [number, number];
}
/** Ordinary kits, uses and beginnings: from far too low to somewhat too high. */
const KEPT: Kept[] = [
	{
		parameter: 'alkalinity',
		unit: 'dKH',
		error: 0.15,
		trueness: 0.1,
		everyDays: 3,
		use: [0.1, 0.6],
		from: [6.3, 9.8]
	},
	{
		parameter: 'calcium',
		unit: 'mg/L',
		error: 8,
		trueness: 5,
		everyDays: 7,
		use: [0.7, 4.3],
		from: [365, 470]
	},
	{
		parameter: 'magnesium',
		unit: 'mg/L',
		error: 25,
		trueness: 15,
		everyDays: 7,
		use: [0, 4],
		from: [1150, 1430]
	}
];
const SUPPLEMENTS: Supplement[] = [
	['soda', 'NaHCO3', 80],
	['calcium', 'CaCl2.2H2O', 150],
	['magnesium', 'MgCl2.6H2O', 300]
].map(([id, salt, gramsPerL]) => ({
	format: 'tevrik.supplement/1',
	id: String(id),
	name: String(id),
	kind: 'solution',
	composition: { recipe: { salt: String(salt), gramsPerL: Number(gramsPerL) } }
}));

const START = Date.parse('2026-03-01T18:00:00Z');
const HISTORY = 28;
/** One test in twenty is a misreading, by about ten errors. */
const MISREADINGS = 0.05;
/** A net volume guessed within 15 %: its standard uncertainty if all are as likely. */
const GUESS = 0.15;
/** A keeper repeats an odd test twice in a session, and then goes to bed. */
const REPEATS = 2;
/** A test counts as odd from this chance on. */
const ODD = 0.5;

/** One level of a tank whose truth is known, with what its keeper knows of it. */
interface Living extends Kept {
	target: { lower: number; upper: number; ideal: number; alarm: [number, number]; healthyPerDay: number };
	/** What the tank uses on a day. */
	useOn: (day: number) => number;
	/** Where it stands, where it stood when the month began, and in the morning. */
	level: number;
	began: number;
	before: number;
	bias: number;
	/** What the dosing pump gives a day, as its keeper believes. */
	dosed: number;
	supplement: Supplement;
	readings: TrendReading[];
	events: TrendEvent[];
}
/** A tank under somebody's hands. */
interface Experiment {
	levels: Living[];
	/** Net volume as it is, and as its keeper believes, L. */
	litres: number;
	believed: number;
	random: () => number;
	gauss: () => number;
	month: Month;
}

const at = (day: number, hour = 0) => new Date(START + day * DAY + hour * HOUR).toISOString();

/** What one mL changes in so many litres. */
const perMl = ({ supplement, parameter }: Living, litres: number): number => {
	const its = dose({ supplement, volume: { value: litres, standardUncertainty: 0 }, amount: 1 });
	return its.ok && its.value.change.parameter === parameter ? its.value.change.value : 0;
};

/**
 * A month of a tank whose truth is known, by a plan that is made again at every test, or by a keeper who pours the whole gap by the last
 * reading. Both have the same tank, kits, misreadings and the same wrong net volume.
 */
export function monthOf(seed: number, law: UseLaw, hands: 'plan' | 'gap', solver: Solver, days = 30): Month {
	const experiment = begun(seed, law);
	const { levels, believed, month } = experiment;
	for (const one of levels) monthBefore(experiment, one);
	let plan: PlanStep[] = [];
	let madeOn = 0;
	for (let day = 0; day < days; day++) {
		for (const one of levels) one.before = one.level;
		const asked = (parameter: string) =>
			plan.some((s) => s.kind === 'test' && s.parameter === parameter && s.day === day - madeOn);
		const tested = levels.filter(
			(one) => day % one.everyDays === 0 || (hands === 'plan' && asked(one.parameter))
		);
		const values = tested.map((one) => test(experiment, one, day));
		month.tests += tested.length;
		if (hands === 'gap')
			tested.forEach((one, i) =>
				pour(experiment, one, day, (one.target.ideal - (values[i] ?? 0)) / perMl(one, believed))
			);
		else {
			if (tested.length || day === 0) {
				plan = planOn(experiment, day, solver);
				madeOn = day;
			}
			follow(
				experiment,
				day,
				plan.filter((s) => s.day === day - madeOn)
			);
		}
		for (const one of levels) dayOver(experiment, one, day);
	}
	return month;
}

function begun(seed: number, law: UseLaw): Experiment {
	const random = uniform(seed);
	const gauss = normal(random);
	const believed = 80 + 320 * random();
	const litres = believed * (1 + GUESS * (2 * random() - 1));
	const found = targets({ school: random() < 0.5 ? 'natural levels' : 'raised levels', phase: 'settled' });
	if (!found.ok) throw new Error('no such school');
	const withDosingPump = random() < 0.5;
	const levels = KEPT.map((kept): Living => {
		const use = kept.use[0] + (kept.use[1] - kept.use[0]) * random();
		return {
			...kept,
			target: found.value.targets[kept.parameter]!,
			useOn: useBy(law, use, random, gauss),
			level: kept.from[0] + (kept.from[1] - kept.from[0]) * random(),
			bias: kept.trueness * gauss(),
			dosed: withDosingPump && kept.parameter !== 'magnesium' ? use * (0.7 + 0.6 * random()) : 0,
			supplement: SUPPLEMENTS.find(
				(s) => s.id === (kept.parameter === 'alkalinity' ? 'soda' : kept.parameter)
			)!,
			readings: [],
			events: [],
			began: 0,
			before: 0
		};
	});
	const month = {
		daysOut: 0,
		tooFast: 0,
		days: 0,
		alarms: 0,
		overshoot: 0,
		millilitres: 0,
		pours: 0,
		tests: 0
	};
	return { levels, litres, believed, random, gauss, month };
}

/** A month before: what it used was given, nearly, by a dosing pump or by hand; where it was by hand, that ends today. */
function monthBefore(experiment: Experiment, one: Living): void {
	const { believed, litres, random } = experiment;
	one.began = one.level;
	const given = one.dosed || one.useOn(-1) * (0.9 + 0.2 * random());
	one.events.push({ at: at(-HISTORY - 1), kind: 'dosing', perDay: given });
	const net = given * (believed / litres) - one.useOn(-1);
	for (let day = -HISTORY; day < 0; day += one.everyDays) {
		one.level = Math.max(0, one.began + net * day);
		test(experiment, one, day);
	}
	one.level = one.began;
	if (!one.dosed) one.events.push({ at: at(0), kind: 'dosing', perDay: 0 });
}

/** A test by an ordinary kit, and what it says; one in so many is misread. */
function test({ random, gauss }: Experiment, one: Living, day: number, hour = 0): number {
	const misread = random() < MISREADINGS ? (random() < 0.5 ? -1 : 1) * one.error * (7 + 6 * random()) : 0;
	const value = Math.max(0, one.level + one.bias + one.error * gauss() + misread);
	one.readings.push({
		at: at(day, hour),
		value,
		standardUncertainty: Math.hypot(one.error, one.trueness),
		trueness: one.trueness,
		method: one.parameter
	});
	return value;
}

/** The plan of a day; what it refuses for being odd or unsure is tested again the same session, as it asks. */
function planOn(experiment: Experiment, day: number, solver: Solver): PlanStep[] {
	const { levels, believed, month } = experiment;
	for (let again = 0; ; again++) {
		const hour = 0.5 + again / 4;
		const made = correct(requestFor(levels, at(day, hour), believed), solver);
		if (!made.ok) throw new Error(JSON.stringify(made.problems));
		const repeated = made.value.refused.filter((r) => r.why === 'odd' || r.why === 'unknown');
		if (!repeated.length || again === REPEATS) return made.value.steps;
		for (const one of levels)
			if (repeated.some((r) => r.parameter === one.parameter)) {
				test(experiment, one, day, hour);
				month.tests++;
			}
	}
}

/** Does what a plan says for today. */
function follow(experiment: Experiment, day: number, steps: PlanStep[]): void {
	for (const { kind, parameter, amount = 0 } of steps) {
		const one = experiment.levels.find((its) => its.parameter === parameter);
		if (!one) continue;
		if (kind === 'dose') pour(experiment, one, day, amount);
		if (kind === 'dosing-rate') {
			one.dosed = amount * perMl(one, experiment.believed);
			one.events.push({ at: at(day, 1), kind: 'dosing', perDay: one.dosed });
		}
	}
}

function pour({ month, litres, believed }: Experiment, one: Living, day: number, ml: number): void {
	if (!(ml > 0)) return;
	month.millilitres += ml;
	month.pours++;
	one.level += ml * perMl(one, litres);
	one.events.push({ at: at(day, 1), kind: 'dose', change: ml * perMl(one, believed) });
}

/** A day passes: the dosing pump gives, the tank uses, and what became of it is counted. */
function dayOver({ month, litres, believed }: Experiment, one: Living, day: number): void {
	month.millilitres += one.dosed / perMl(one, believed);
	one.level = Math.max(0, one.level + one.dosed * (believed / litres) - one.useOn(day));
	const { lower, upper, alarm, healthyPerDay } = one.target;
	month.days++;
	if (one.level < lower || one.level > upper) month.daysOut++;
	// Up by more than is healthy is the hands' doing: nothing rises by itself here.
	if (one.level - one.before > healthyPerDay) month.tooFast++;
	const isBad = (level: number) => level < alarm[0] || level > alarm[1];
	if (isBad(one.level) && !isBad(one.began)) month.alarms++;
	month.overshoot = Math.max(month.overshoot, (one.level - Math.max(upper, one.began)) / (upper - lower));
}

function requestFor(tank: Living[], now: string, believed: number): CorrectRequest {
	return {
		now,
		days: 14,
		water: {
			volumeL: { value: believed, standardUncertainty: (GUESS / Math.sqrt(3)) * believed },
			salinity: 35,
			temperatureC: 25
		},
		parameters: tank.map((t) => {
			const known = trend({
				parameter: t.parameter,
				unit: t.unit,
				readings: t.readings,
				events: t.events,
				band: { lower: t.target.lower, upper: t.target.upper },
				now
			});
			if (!known.ok) throw new Error(JSON.stringify(known.problems));
			const { now: level, usePerDay, odd } = known.value;
			return {
				parameter: t.parameter,
				unit: t.unit,
				now: { mean: level.value, standardDeviation: level.standardDeviation },
				usePerDay: { mean: usePerDay.value, standardDeviation: usePerDay.standardDeviation },
				band: { lower: t.target.lower, upper: t.target.upper },
				ideal: t.target.ideal,
				alarm: t.target.alarm,
				healthyPerDay: { up: t.target.healthyPerDay, down: t.target.healthyPerDay },
				odd: odd.some((o) => o.index === t.readings.length - 1 && o.probability > ODD),
				testError: t.error
			};
		}),
		dosing: tank.flatMap((t) => {
			if (!t.dosed) return [];
			const one = dose({
				supplement: t.supplement,
				volume: { value: believed, standardUncertainty: 0 },
				amount: 1
			});
			return one.ok ? [{ supplement: t.supplement.id, mlPerDay: t.dosed / one.value.change.value }] : [];
		}),
		supplements: tank.map((t) => t.supplement),
		prefer: 'soonest'
	};
}

/** Use on a day, by a law. */
function useBy(
	law: UseLaw,
	mean: number,
	random: () => number,
	gauss: () => number
): (day: number) => number {
	const walk = [1];
	for (let i = 1; i < 60; i++) walk.push(Math.max(0.3, walk[i - 1]! + 0.04 * gauss()));
	const [phase, rate, stepOn, stepTo] = [
		2 * Math.PI * random(),
		0.03 * (random() - 0.3),
		30 * random(),
		0.5 + random()
	];
	return (day) => {
		const d = Math.max(0, day);
		if (law === 'wanders') return mean * (walk[Math.min(59, d)] ?? 1);
		if (law === 'grows') return mean * Math.exp(rate * d);
		if (law === 'weekly') return mean * (1 + 0.3 * Math.sin(phase + (2 * Math.PI * d) / 7));
		if (law === 'steps') return mean * (d < stepOn ? 1 : stepTo);
		return mean;
	};
}
