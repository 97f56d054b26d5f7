import { DAY } from '../base';
import { normal, uniform } from '../statistics';

/** What a tank does over months. */
export const MONTH_LAWS = [
	'stands',
	'returns in 6 days',
	'returns in 20 days',
	'goes with a season of 75 days',
	'drifts slowly',
	'wanders'
] as const;
type MonthLaw = (typeof MONTH_LAWS)[number];

/** A tank that has been tested for months; its truth is known. Alkalinity in dKH. */
export interface Months {
	readings: { at: string; value: number; standardUncertainty: number }[];
	now: string;
	/** Of each reading its day; and the truth so many days from now. */
	days: number[];
	/** Where it stands and about how far it strays. */
	mean: number;
	spread: number;
	levelIn: (days: number) => number;
}

const START = Date.parse('2026-01-01T00:00:00Z');
/** A day: a level that strays leaves a band between the hours too seldom to tell. */
const STEPS = 24;

/** Simulates a tank for `days`, tested every four to eight days by a hand of 0.1 to 0.2 dKH. */
export function simulateMonths(law: MonthLaw, seed: number, days = 200): Months {
	const random = uniform(seed);
	const gauss = normal(random);
	const mean = 7.5 + 1.5 * random();
	const error = 0.1 + 0.1 * random();
	const spread = 0.2 + 0.2 * random();
	const slope = (random() < 0.5 ? -1 : 1) * (0.004 + 0.004 * random());
	const phase = 2 * Math.PI * random();
	const back = law === 'returns in 6 days' ? 6 : law === 'returns in 20 days' ? 20 : 0;
	const keep = back ? Math.exp(-1 / (STEPS * back)) : 0;
	const wander: number[] = [];
	// What wanders strays as far as a spread in twenty days, and comes from nowhere back.
	const stray = law === 'wanders' ? spread / Math.sqrt(20 * STEPS) : spread * Math.sqrt(1 - keep * keep);
	for (let step = 0, off = spread * gauss(); step <= (days + 60) * STEPS; step++) {
		wander.push(off);
		off = (law === 'wanders' ? 1 : keep) * off + stray * gauss();
	}
	const truth = (day: number): number => {
		if (back || law === 'wanders') return mean + wander[Math.round(day * STEPS)]!;
		if (law === 'goes with a season of 75 days')
			return mean + 2 * spread * Math.sin(phase + (2 * Math.PI * day) / 75);
		return law === 'drifts slowly' ? mean + slope * (day - days / 2) : mean;
	};
	const times: number[] = [];
	for (let day = 4 * random(); day < days; day += 4 + 4 * random()) times.push(day);
	const now = times.at(-1)!;
	const at = (day: number) => new Date(START + Math.round(day * DAY)).toISOString();
	return {
		readings: times.map((day) => ({
			at: at(day),
			value: truth(day) + error * gauss(),
			standardUncertainty: error
		})),
		now: at(now),
		days: times,
		mean,
		spread,
		levelIn: (ahead) => truth(now + ahead)
	};
}
