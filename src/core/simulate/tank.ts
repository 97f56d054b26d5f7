import { CALCIUM_PER_DKH } from '../catalogue';

/** Concentrations of what is built into skeleton: dKH, mg/L, mg/L. */
interface Minerals {
	alkalinity: number;
	calcium: number;
	magnesium: number;
}

/** How a tank is kept, from its first simulated day on. */
export interface Upkeep {
	start: Minerals;
	newWater: Minerals;
	/** Skeleton built, as alkalinity used, dKH a day, and by which factor that grows in a hundred days. */
	use: number;
	growth: number;
	/** Alkalinity dosed, dKH a day, from the given day on; calcium goes with it in ratio. */
	dosing: { fromDay: number; perDay: number }[];
	/** One water change every so many days, of this fraction of the tank. */
	change: { everyDays: number; fraction: number };
	/** Spread of daily use about its mean, as a fraction. */
	wobble: number;
}

/** Magnesium built in beside calcium, as a fraction of the calcium: about 1 to 20 in aragonite with coralline algae. */
const MAGNESIUM_PER_CALCIUM = 0.05;

/** Levels at the start of each day; index 0 is the first day. `gauss` gives standard normal numbers. */
export function simulateMinerals(upkeep: Upkeep, days: number, gauss: () => number): Minerals[] {
	const levels: Minerals[] = [];
	let now = { ...upkeep.start };
	for (let day = 0; day <= days; day++) {
		levels.push({ ...now });
		const use = upkeep.use * upkeep.growth ** (day / 100) * Math.max(0, 1 + upkeep.wobble * gauss());
		const dosed = upkeep.dosing.filter((d) => d.fromDay <= day).at(-1)?.perDay ?? 0;
		const net = dosed - use;
		now = {
			alkalinity: now.alkalinity + net,
			calcium: now.calcium + net * CALCIUM_PER_DKH,
			magnesium: now.magnesium - use * CALCIUM_PER_DKH * MAGNESIUM_PER_CALCIUM
		};
		if (day > 0 && day % upkeep.change.everyDays === 0)
			now = mixed(now, upkeep.newWater, upkeep.change.fraction);
	}
	return levels;
}

const mixed = (a: Minerals, b: Minerals, fraction: number): Minerals => ({
	alkalinity: a.alkalinity + fraction * (b.alkalinity - a.alkalinity),
	calcium: a.calcium + fraction * (b.calcium - a.calcium),
	magnesium: a.magnesium + fraction * (b.magnesium - a.magnesium)
});

/** A level that is pulled back to a mean which itself drifts: nutrients fed and taken up, salinity topped up. */
export interface Wandering {
	mean: number;
	/** Change of the mean over a hundred days. */
	drift: number;
	/** Spread about the mean once settled, and days in which a disturbance halves. */
	spread: number;
	halfLife: number;
}

/** Levels at the start of each day, never below zero. `gauss` gives standard normal numbers. */
export function simulateWandering(of: Wandering, days: number, gauss: () => number): number[] {
	const keep = 0.5 ** (1 / of.halfLife);
	const levels: number[] = [];
	for (let day = 0, off = gauss() * of.spread; day <= days; day++) {
		levels.push(Math.max(0, of.mean + (of.drift * day) / 100 + off));
		off = off * keep + gauss() * of.spread * Math.sqrt(1 - keep * keep);
	}
	return levels;
}
