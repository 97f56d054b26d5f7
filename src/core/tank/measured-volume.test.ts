import { expect, it } from 'vitest';
import { normal, uniform } from '../statistics';
import { measuredVolume } from './measured-volume';

const level = (value: number, standardUncertainty: number) => ({ value, standardUncertainty });

it('the interval of a measured volume holds the true one in 95 %, also where the rise is small', () => {
	const gauss = normal(uniform(11));
	for (const rise of [0.3, 0.6, 1.5]) {
		let [held, open] = [0, 0];
		const rounds = 4000;
		for (let i = 0; i < rounds; i++) {
			const litres = 180;
			const its = measuredVolume({
				added: level(rise * litres * (1 + 0.02 * gauss()), 0.02 * rise * litres),
				before: level(7 + 0.1 * gauss(), 0.1),
				after: level(7 + rise + 0.1 * gauss() - 0.3 * 2, 0.1),
				days: 2,
				netPerDay: level(-0.3 + 0.02 * gauss(), 0.02)
			});
			if (!its.ok) {
				// No rise at all: nothing is said, and nothing wrong.
				held++;
				continue;
			}
			const [low, high] = its.value.measured.interval;
			if (high === null) open++;
			if (litres >= low && (high === null || litres <= high)) held++;
		}
		expect(held / rounds, `rise ${rise}`).toBeGreaterThan(0.94);
		expect(held / rounds, `rise ${rise}`).toBeLessThan(rise < 0.5 ? 1 : 0.965);
		if (rise === 0.3) expect(open).toBeGreaterThan(0);
		if (rise === 1.5) expect(open).toBe(0);
	}
});

it('joins the pour with what sizes say, by their errors', () => {
	const its = measuredVolume({
		added: level(200, 2),
		before: level(7, 0.1),
		after: level(8, 0.1),
		estimate: level(230, 20)
	});
	if (!its.ok) throw new Error();
	expect(its.value.measured.value).toBeCloseTo(200, 9);
	expect(its.value.joined!.value).toBeGreaterThan(205);
	expect(its.value.joined!.value).toBeLessThan(230);
	expect(its.value.joined!.standardUncertainty).toBeLessThan(20);
	expect(its.value.riseToTell).toBeCloseTo(0.1414 / 0.05, 2);
});

it('says where nothing rose', () => {
	expect(measuredVolume({ added: level(200, 2), before: level(8, 0.1), after: level(8, 0.1) })).toMatchObject(
		{
			ok: false,
			problems: [{ path: '/after' }]
		}
	);
});
