import { describe, expect, it } from 'vitest';
import { normalBelow } from '../statistics';
import { firstPassage, type Limits } from './passage';
import { transitionOf, waterAlone } from './water';

const DAYS = 40;
/** Water that strays so much, of which nothing is forgotten: tested just now, it would be remembered for years. */
const steps = (level: number, days: number, dosed = 0) => {
	const body = {
		dosing: [{ from: -Infinity, perDay: dosed }],
		usual: { level: 0, sd: 0, days: 1e6 },
		floor: -Infinity
	};
	const water = waterAlone(body, { level, drift: 0 });
	return [water, Array.from({ length: days }, (_, day) => transitionOf(water, day, day + 1, [0]))] as const;
};

/** A level known exactly, that strays by `sd` a square root of a day and runs by `drift` a day. */
const leaving = (
	limits: Limits,
	{ level = 8, drift = 0, sd = 0.2, dosed = 0, spread = 1e-9, rest = 1 } = {}
) =>
	firstPassage(
		[{ weight: 1, state: { mean: [level, drift], cov: [spread ** 2, 0, 0, 0] } }],
		limits,
		...steps(sd * sd, DAYS, dosed),
		() => ({ rest, fresh: 0 })
	);

/** Chance that Brownian motion with a drift has gone `distance` by a time (Bachelier and Levy). */
const reached = (distance: number, drift: number, sd: number, time: number): number => {
	const s = sd * Math.sqrt(time);
	return (
		normalBelow((drift * time - distance) / s) +
		Math.exp((2 * drift * distance) / (sd * sd)) * normalBelow((-distance - drift * time) / s)
	);
};
/** Five hundred ways tell a chance to a standard error of so much. */
const error = (chance: number) => Math.sqrt(Math.max(chance * (1 - chance), 0.01) / 500);

describe('first passage out of a band', () => {
	it.each([
		['still water', 0, 0],
		['falling', -0.03, 0],
		['running away from the edge', 0.03, 0],
		['held by what is dosed', -0.1, 0.1],
		['falling in spite of what is dosed', -0.1, 0.06]
	])('of %s is as Brownian motion has it, between the days too', (_, drift, dosed) => {
		const found = leaving({ lower: 7.2, upper: undefined }, { drift, dosed });
		for (const day of [1, 3, 7, 14, 28, 40]) {
			const wanted = reached(0.8, -(drift + dosed), 0.2, day);
			expect(Math.abs(found.lower[day]! - wanted), `day ${day}`).toBeLessThan(3.3 * error(wanted));
		}
		expect(found.upper.every((chance) => chance === 0)).toBe(true);
	});

	it('is the same by either edge for water that goes neither way, and certain in the end', () => {
		const { lower, upper } = leaving({ lower: 7.5, upper: 8.5 });
		for (const day of [7, 14, 28])
			expect(Math.abs(lower[day]! - upper[day]!)).toBeLessThan(
				3.3 * Math.sqrt((lower[day]! + upper[day]!) / 500)
			);
		expect(lower[DAYS]! + upper[DAYS]!).toBeGreaterThan(0.95);
	});

	it('never falls, never passes one, and begins with who is out already', () => {
		const { lower, upper } = leaving({ lower: 7.9, upper: 8.4 }, { spread: 0.3, drift: 0.02 });
		const all = lower.map((chance, day) => chance + upper[day]!);
		// A share of 500 walks lies this near its chance in 999 of 1,000 tries.
		const near = (share: number, chance: number) =>
			expect(Math.abs(share - chance)).toBeLessThan(3.3 * Math.sqrt((chance * (1 - chance)) / 500));
		near(lower[0]!, normalBelow(-0.1 / 0.3));
		near(upper[0]!, 1 - normalBelow(0.4 / 0.3));
		for (const chances of [lower, upper, all])
			for (const [day, chance] of chances.entries())
				expect(chance).toBeGreaterThanOrEqual(chances[day - 1] ?? 0);
		expect(all.at(-1)).toBeLessThanOrEqual(1);
	});

	it('gives each explanation the share of ways that it is likely', () => {
		const at = (level: number, weight: number) => ({
			weight,
			state: { mean: [level, 0], cov: [1e-18, 0, 0, 0] }
		});
		const { lower, upper } = firstPassage(
			[at(5, 0.3), at(8, 0.5), at(11, 0.2)],
			{ lower: 7, upper: 9 },
			...steps(1e-9, 1),
			() => ({ rest: 1, fresh: 0 })
		);
		expect([lower[0], upper[0]]).toEqual([0.3, 0.2]);
	});

	it('a change takes its share of whatever the level has come to', () => {
		// One a day comes, a fifth is changed each day for water with none: it climbs from 3 towards 4 to 5, and no further.
		const climbs = { level: 3, drift: 1, sd: 0.05, rest: 0.8 };
		expect(leaving({ lower: undefined, upper: 5.6 }, climbs).upper[DAYS]).toBe(0);
		expect(leaving({ lower: undefined, upper: 4.6 }, climbs).upper[DAYS]).toBe(1);
	});

	it('gives the same answer to the same question, whatever was asked between', () => {
		const ask = () => leaving({ lower: 7.2, upper: 9 }, { drift: -0.02 });
		const before = ask();
		leaving({ lower: 1, upper: 20 }, { sd: 3 });
		expect(ask()).toEqual(before);
	});
});
