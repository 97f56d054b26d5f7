import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { boxed, throughJpeg } from '../../../tests/support/pictures';
import { colourRequest, findStrip, type CardMarks } from '../picture';
import { CARDS, LIGHTS, photographCard, someCamera, type CardScene, type Light } from '../photograph';
import { median, normal, uniform } from '../statistics';
import { colour, type ColourRequest, type ColourResult, type Samples } from '.';
import { tries } from '../../../tests/support/length';

const answer = (request: ColourRequest): ColourResult => {
	const outcome = colour(request);
	if (!outcome.ok) throw new Error(JSON.stringify(outcome.problems));
	return outcome.value;
};

/** A photograph by chance, with its truth. */
function scene(seed: number, more: Partial<CardScene> = {}): CardScene & { place: number } {
	const random = uniform(1000 + seed);
	for (let i = 0; i < 5; i++) random();
	const card = CARDS[seed % 5]!;
	const place = random() * (card.values.length - 1);
	const i = Math.min(card.values.length - 2, Math.floor(place));
	return {
		card,
		place,
		value: card.values[i]! + (place - i) * (card.values[i + 1]! - card.values[i]!),
		light: Object.keys(LIGHTS)[Math.floor(seed / 5) % 6] as Light,
		camera: someCamera(seed * 7 + 1),
		gradient: 0.3 * random(),
		slant: 0.15,
		blur: Math.round(1.5 * random()),
		width: 320,
		height: 240,
		seed,
		...more
	};
}
async function photographed(of: CardScene, found = false): Promise<ColourResult | undefined> {
	const { pixels, corners, vial, white } = photographCard(of);
	const seen = await throughJpeg(pixels, 78);
	const strip = found ? findStrip(seen, of.card.values.length) : corners;
	const marks: CardMarks | undefined = strip && { corners: strip, vial: boxed(vial), white: boxed(white) };
	const request = marks && colourRequest(seen, marks, of.card.values, 'card');
	return request && answer(request);
}
const placeOf = (result: ColourResult, values: number[]) =>
	values.indexOf(result.position!.between[0]) + result.position!.at;

describe('a shade from photographs: six lights, gradients, slants, blur, noise, JPEG, five cards of 5 to 8 patches', () => {
	it('is off by less than a tenth of a step in the middle, and its 95 % hold in 92 to 98 of a hundred', async () => {
		const errors: number[] = [];
		let held = 0;
		const PICTURES = tries(45, 90);
		for (let seed = 0; seed < PICTURES; seed++) {
			const of = scene(seed);
			const result = (await photographed(of))!;
			expect(result.position, JSON.stringify(result.where)).not.toBeNull();
			errors.push(Math.abs(placeOf(result, of.card.values) - of.place));
			if (
				of.value >= (result.interval[0] ?? -Infinity) - 1e-9 &&
				of.value <= (result.interval[1] ?? Infinity) + 1e-9
			)
				held++;
		}
		expect(median(errors)).toBeLessThan(0.1);
		// So many pictures scatter by so much about 92 to 98 %.
		const scatter = Math.sqrt((0.95 * 0.05) / PICTURES);
		expect(held / PICTURES).toBeGreaterThanOrEqual(0.92 - scatter);
		expect(held / PICTURES).toBeLessThanOrEqual(0.98 + scatter);
	});

	it('is the same where the card is found by itself', async () => {
		let found = 0;
		const CARDS = tries(10, 30);
		const apart: number[] = [];
		for (let seed = 0; seed < CARDS; seed++) {
			const of = scene(seed, { width: 640, height: 480 });
			const [marked, byItself] = [await photographed(of), await photographed(of, true)];
			if (!byItself?.position) continue;
			found++;
			apart.push(Math.abs(placeOf(byItself, of.card.values) - placeOf(marked!, of.card.values)));
		}
		expect(found).toBeGreaterThanOrEqual(0.9 * CARDS);
		expect(median(apart)).toBeLessThan(0.05);
		expect(apart.filter((a) => a > 0.5).length).toBeLessThanOrEqual(0.07 * CARDS);
	});

	it.each([
		['a lamp mirrored in the vial', { glare: 'vial' as const }, 'glare'],
		['a lamp mirrored in the card', { glare: 'card' as const }, 'glare'],
		[
			'too long exposed',
			{ camera: { whiteBalance: 0.8, exposure: 1.7, contrast: 0.2, noise: 2 } },
			'clipped'
		],
		['in the dark', { camera: { whiteBalance: 0.8, exposure: 0.006, contrast: 0, noise: 2 } }, 'dark']
	])('refuses a picture of %s', async (_, more, flag) => {
		for (const seed of [0, 1, 3]) {
			const result = (await photographed(scene(seed, { width: 480, height: 360, ...more })))!;
			expect(result.flags.some((f) => f === flag || f === 'glare' || f === 'clipped')).toBe(true);
			expect([result.value, result.position]).toEqual([null, null]);
		}
	});
});

/** Flat areas of another law: colours straight in sRGB between patches, under any tint. */
const flat = (seed: number, colourOf: number[], count = 60): Samples => {
	const random = uniform(seed);
	for (let i = 0; i < 4; i++) random();
	const chance = normal(random);
	return Array.from(
		{ length: count },
		() => colourOf.map((v) => Math.max(0, Math.min(255, v + 2 * chance()))) as [number, number, number]
	);
};
const PATCHES = [
	[232, 228, 224],
	[226, 196, 205],
	[219, 168, 188],
	[205, 122, 160]
];
const VALUES = [0, 5, 10, 25];
const asked = (vial: number[], more: Partial<ColourRequest> = {}): ColourRequest => ({
	patches: PATCHES.map((c, i) => ({ value: VALUES[i]!, samples: flat(i + 1, c) })),
	white: flat(9, [238, 235, 231]),
	vial: { samples: flat(20, vial) },
	...more
});
const mixed = (a: number[], b: number[], share: number) => a.map((v, c) => v + share * (b[c]! - v));

describe('a shade', () => {
	it('holds under any tint and brightness that all of the picture has', () => {
		fc.assert(
			fc.property(
				fc.array(fc.double({ min: 0.55, max: 1, noNaN: true }), { minLength: 3, maxLength: 3 }),
				fc.double({ min: 0.1, max: 2.9, noNaN: true }),
				(tint, place) => {
					const tinted = (c: number[]) => c.map((v, i) => v * tint[i]!);
					const i = Math.floor(place);
					const result = answer({
						patches: PATCHES.map((c, k) => ({ value: VALUES[k]!, samples: flat(k + 1, tinted(c)) })),
						white: flat(9, tinted([238, 235, 231])),
						vial: { samples: flat(20, tinted(mixed(PATCHES[i]!, PATCHES[i + 1]!, place - i))) }
					});
					expect(Math.abs(placeOf(result, VALUES) - place)).toBeLessThan(0.25);
				}
			),
			{ numRuns: 60 }
		);
	});

	it('says paler than the first and deeper than the last, and that it is of another hue', () => {
		const inside = asked(mixed(PATCHES[1]!, PATCHES[2]!, 0.5));
		const without = (patches: ColourRequest['patches']) => answer({ ...inside, patches });
		expect(without(inside.patches.slice(2))).toMatchObject({
			qualifier: '<',
			value: null,
			interval: [null, 10]
		});
		expect(without(inside.patches.slice(0, 2))).toMatchObject({
			qualifier: '>',
			value: null,
			interval: [5, null]
		});
		expect(answer(asked([150, 200, 170])).flags).toContain('off-the-path');
	});

	it('is less sure the noisier, fewer and further off the path its pixels are', () => {
		const at = mixed(PATCHES[1]!, PATCHES[2]!, 0.4);
		const sure = answer(asked(at)).stepUncertainty!;
		const off = answer(asked(at.map((v, c) => v + [10, 0, -10][c]!))).stepUncertainty!;
		const few = answer(
			asked(at, {
				vial: {
					samples: flat(20, at, 26).map(
						(p) =>
							p.map((v, c) => Math.max(0, Math.min(255, v + (p[(c + 1) % 3]! % 7) * 4 - 12))) as [
								number,
								number,
								number
							]
					)
				}
			})
		).stepUncertainty!;
		expect(off).toBeGreaterThan(1.5 * sure);
		expect(few).toBeGreaterThan(sure);
		expect(answer(asked(at, { vial: { samples: flat(20, at, 8) } })).flags).toEqual(['too-few-pixels']);
	});

	it('takes the water’s own tint away by the untreated vial', () => {
		const tint = [0.93, 0.84, 0.7];
		const tinted = mixed(PATCHES[1]!, PATCHES[2]!, 0.5).map(
			(v, c) => 255 * ((v / 255) ** 2.2 * tint[c]!) ** (1 / 2.2)
		);
		const plain = placeOf(answer(asked(tinted)), VALUES);
		const zero = {
			samples: flat(
				30,
				[238, 235, 231].map((v, c) => 255 * ((v / 255) ** 2.2 * tint[c]!) ** (1 / 2.2))
			)
		};
		const corrected = placeOf(answer(asked(tinted, { zero })), VALUES);
		expect(Math.abs(corrected - 1.5)).toBeLessThan(0.15);
		expect(Math.abs(corrected - 1.5)).toBeLessThan(Math.abs(plain - 1.5));
	});

	it('says what light it is, and refuses patches out of order', () => {
		const cast = (tint: number[]) => {
			const tinted = (c: number[]) => c.map((v, i) => v * tint[i]!);
			return answer({ ...asked(tinted(PATCHES[1]!)), white: flat(9, tinted([238, 235, 231])) }).cast;
		};
		expect([cast([1, 1, 1]), cast([0.5, 0.65, 1]), cast([1, 0.8, 0.5])]).toEqual(['none', 'blue', 'warm']);
		const outcome = colour({ ...asked(PATCHES[1]!), patches: asked(PATCHES[1]!).patches.reverse() });
		expect(outcome.ok ? [] : outcome.problems[0]!.path).toBe('/patches/1/value');
	});
});
