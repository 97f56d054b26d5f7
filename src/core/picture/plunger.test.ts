import { describe, expect, it } from 'vitest';
import { throughJpeg } from '../../../tests/support/pictures';
import { photographSyringe, type SyringeScene } from '../photograph';
import { uniform } from '../statistics';
import { barrelRows, plunger, type PlungerResult } from '.';
import { tries } from '../../../tests/support/length';

function scene(seed: number): SyringeScene & { off: () => number } {
	const random = uniform(seed * 31 + 5);
	for (let i = 0; i < 4; i++) random();
	const graduationMl = random() < 0.5 ? 0.01 : 0.02;
	const across = random() < 0.3;
	return {
		fillMl: 1,
		graduationMl,
		left: 0.05 + 0.93 * random(),
		air: random() < 0.3 ? 0 : 0.02 + 0.05 * random(),
		upsideDown: random() < 0.5,
		turned: (across ? 0 : -Math.PI / 2) + 0.3 * (random() - 0.5),
		slant: 0.06 * (random() - 0.5),
		seal: 0.02 + 0.05 * random(),
		ground: 0.45 + 0.35 * random(),
		tint: 0.06 + 0.3 * random(),
		gradient: 0.3 * random(),
		blur: Math.round(1.4 * random()),
		noise: 1 + 3 * random(),
		length: 560 + 300 * random(),
		width: across ? 960 : 400,
		height: across ? 400 : 960,
		seed,
		off: () => random() - 0.5
	};
}
/** The syringe read from a JPEG, its ends marked so many graduations off at most. */
async function read(of: ReturnType<typeof scene>, graduationsOff: number): Promise<PlungerResult> {
	const { pixels, ends } = photographSyringe(of);
	const [ax, ay] = [Math.cos(of.turned), Math.sin(of.turned)];
	const moved = ({ x, y }: { x: number; y: number }) => {
		const by = of.off() * 2 * graduationsOff * of.graduationMl * of.length;
		return { x: x + by * ax, y: y + by * ay };
	};
	const outcome = plunger(
		barrelRows(await throughJpeg(pixels), { zero: moved(ends.zero), full: moved(ends.full) }, of)
	);
	if (!outcome.ok) throw new Error(JSON.stringify(outcome.problems));
	return outcome.value;
}

describe('a plunger from photographs: turned, slanted, blurred, noisy, digits either way up, JPEG', () => {
	it('is within 0.005 mL in 95 of a hundred, its error holds, and the liquid’s edge is told apart', async () => {
		let within = 0;
		const SYRINGES = tries(12, 24);
		let held = 0;
		let liquid = 0;
		let withAir = 0;
		for (let seed = 0; seed < SYRINGES; seed++) {
			const of = scene(seed);
			const { left, standardUncertainty, liquid: edge } = await read(of, 0.5);
			const off = Math.abs((left ?? Infinity) - of.left);
			if (off <= 0.005) within++;
			if (off <= 1.96 * (standardUncertainty ?? 0)) held++;
			if (of.air > 0 && of.left - of.air > 0.06) {
				withAir++;
				if (edge !== null && Math.abs(edge - (of.left - of.air)) < 0.012) liquid++;
			}
		}
		expect(within).toBeGreaterThanOrEqual(SYRINGES - 1);
		expect(held).toBeGreaterThanOrEqual(SYRINGES - 1);
		expect(liquid).toBeGreaterThan(0.8 * withAir);
	});

	it('is never sure where the marked ends are lines off, and says where the lines are', async () => {
		for (let seed = 0; seed < tries(4, 10); seed++) {
			const of = scene(seed);
			const { left, standardUncertainty, flags, ends } = await read(of, 5);
			const sure = !flags.includes('ends-unsure');
			if (sure) expect(Math.abs(left! - of.left)).toBeLessThan(0.005);
			else expect(standardUncertainty).toBeGreaterThan(1.5 * of.graduationMl);
			expect(ends[1]).toBeGreaterThan(0.8);
		}
	});

	it('finds none where there is none, and says so', () => {
		const rows = Array.from({ length: 700 }, (_, i) =>
			Array.from({ length: 21 }, (_, j) => 170 + ((i * 7 + j * 3) % 5))
		);
		const outcome = plunger({ rows, from: -0.2, to: 1.2, fillMl: 1, graduationMl: 0.01 });
		expect(outcome.ok && outcome.value).toMatchObject({ left: null, flags: ['no-edge', 'no-lines'] });
	});

	it('says which scales it can read', () => {
		const rows = Array.from({ length: 60 }, () => [1, 2, 3]);
		const asked = (graduationMl: number) => plunger({ rows, from: 0, to: 1, fillMl: 1, graduationMl });
		expect([asked(0.5), asked(1e-6)].map((o) => !o.ok && o.problems[0]!.path)).toEqual([
			'/graduationMl',
			'/graduationMl'
		]);
		const ragged = plunger({ rows: [...rows, [1, 2]], from: 0, to: 1, fillMl: 1, graduationMl: 0.01 });
		expect(!ragged.ok && ragged.problems[0]!.path).toBe('/rows');
	});
});
