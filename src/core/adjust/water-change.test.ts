import { expect, it } from 'vitest';
import { afterChange, type ChangedWater } from './water-change';

const nitrate: ChangedWater = {
	parameter: 'nitrate',
	now: 40,
	newWater: 2,
	netPerDay: { value: 0.5, standardDeviation: 0.05 },
	fraction: 0.25,
	everyDays: 5
};

it('mixes what is there with what comes in', () => {
	expect(afterChange(nitrate, [0, 0.3, 1]).after).toEqual([40, 0.7 * 40 + 0.3 * 2, 2]);
});

it('settles where many changes in a row end, whatever the drift, and as far off as a drift that is off leads', () => {
	const end = (drift: number) => {
		let level = 40;
		for (let n = 0; n < 200; n++) level = 0.75 * (level + 5 * drift) + 0.25 * 2;
		return level;
	};
	const { settles } = afterChange(nitrate, []);
	expect(settles!.value).toBeCloseTo(end(0.5), 9);
	expect(settles!.standardDeviation).toBeCloseTo(end(0.55) - end(0.5), 9);
});

it('does not say where a level settles that nobody knows the drift of', () => {
	expect(afterChange({ ...nitrate, netPerDay: null }, []).settles).toBeNull();
	expect(
		afterChange({ ...nitrate, netPerDay: { value: 0.5, standardDeviation: 50 } }, []).settles
	).toBeNull();
});
