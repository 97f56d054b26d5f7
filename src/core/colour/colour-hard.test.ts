import { describe, expect, it } from 'vitest';
import { tries } from '../../../tests/support/length';
import { normal, uniform } from '../statistics';
import { colour, type ColourRequest, type Samples } from '.';

/**
 * Colours of other laws than the photographs are drawn by: dyes by wave number, cards printed as dots of three inks (Neugebauer 1937 with
 * Demichel's areas) that a daylight eye was matched by, lamps of lines with nothing between them, a camera with its own curve.
 */
type Spectrum = number[];
const NM = Array.from({ length: 61 }, (_, i) => 400 + 5 * i);
const spectrum = (of: (nm: number) => number): Spectrum => NM.map(of);
/** A line that is a bell in wave numbers, with a shoulder towards the blue: [height, nm, width in 1000/cm]. */
const dye = (...lines: [number, number, number][]): Spectrum =>
	spectrum((nm) =>
		lines.reduce((sum, [height, at, width]) => {
			const d = (1e4 / nm - 1e4 / at) / width;
			return sum + height * (Math.exp(-0.5 * d * d) + 0.25 * Math.exp(-0.5 * ((d - 1.3) / 0.8) ** 2));
		}, 0)
	);
const DYES = [
	dye([1, 525, 0.9]),
	dye([1, 660, 1]),
	dye([1, 440, 1.4]),
	dye([0.8, 640, 0.9], [0.5, 425, 1]),
	dye([0.9, 490, 1.2]),
	dye([1, 570, 0.8])
];
const edge = (nm: number, at: number, width: number) => 1 / (1 + Math.exp(-(nm - at) / width));
const PAPER = spectrum((nm) => 0.86 + 0.02 * Math.sin(nm / 60));
/** Pigments, absorbance: broad, and not where the dyes are. */
const PIGMENTS: Spectrum[] = [
	spectrum((nm) => 1 - edge(nm, 470, 11)),
	dye([1, 500, 1.5]),
	dye([1, 542, 1]),
	spectrum((nm) => edge(nm, 585, 14))
];
const printed = (amounts: number[]): Spectrum =>
	PAPER.map((v, i) => v * 10 ** -PIGMENTS.reduce((sum, of, k) => sum + amounts[k]! * of[i]!, 0));
const lines = (...of: [number, number, number][]): Spectrum =>
	spectrum((nm) =>
		of.reduce((sum, [height, at, width]) => sum + height * Math.exp(-(((nm - at) / width) ** 2)), 0.002)
	);
const DAY = spectrum((nm) => 1 - 0.0012 * (nm - 560));
const LAMPS = {
	day: DAY,
	bulb: spectrum((nm) => (nm / 560) ** 4),
	strip: lines([0.9, 455, 16], [1, 585, 75]),
	// With gaps: nothing to speak of between their lines.
	'three bands': lines(
		[0.5, 450, 22],
		[0.3, 488, 7],
		[1.2, 544, 6],
		[0.25, 586, 7],
		[1.1, 611, 6],
		[0.15, 630, 7]
	),
	'three diodes': lines([1, 465, 16], [0.8, 525, 22], [0.9, 632, 12]),
	'blue and violet': lines([0.4, 420, 10], [1.6, 455, 14], [0.12, 560, 60]),
	'blue, a little red': lines([1.6, 450, 13], [0.7, 475, 14], [0.25, 660, 12], [0.08, 540, 40])
};
/** The CIE 1931 observer as skewed bells (Wyman, Sloan and Shirley 2013). */
const lobe = (nm: number, at: number, left: number, right: number) =>
	Math.exp(-0.5 * ((nm - at) / (nm < at ? left : right)) ** 2);
const OBSERVER = [
	spectrum(
		(nm) =>
			1.056 * lobe(nm, 599.8, 37.9, 31) +
			0.362 * lobe(nm, 442, 16, 26.7) -
			0.065 * lobe(nm, 501.1, 20.4, 26.2)
	),
	spectrum((nm) => 0.821 * lobe(nm, 568.8, 46.9, 40.5) + 0.286 * lobe(nm, 530.9, 16.3, 31.1)),
	spectrum((nm) => 1.217 * lobe(nm, 437, 11.8, 36) + 0.681 * lobe(nm, 459, 26, 13.8))
];
/** A phone's pixels: broad, with tails of their own. */
const SENSOR = [
	spectrum((nm) => lobe(nm, 595, 22, 42) + 0.08 * lobe(nm, 430, 20, 20)),
	spectrum((nm) => lobe(nm, 530, 42, 38) + 0.04 * edge(nm, 600, 20)),
	spectrum((nm) => lobe(nm, 455, 24, 34))
];
const sums = (kinds: Spectrum[], lamp: Spectrum, surface: Spectrum) =>
	kinds.map((kind) => kind.reduce((sum, v, i) => sum + v * lamp[i]! * surface[i]!, 0));

/** CIELAB by day (CIE 015). */
function byDay(surface: Spectrum): [number, number, number] {
	const white = sums(OBSERVER, DAY, PAPER);
	const [x, y, z] = sums(OBSERVER, DAY, surface).map((v, i) => Math.cbrt(v / white[i]!)) as [
		number,
		number,
		number
	];
	return [116 * y - 16, 500 * (x - y), 200 * (y - z)];
}
/** Amounts of pigments that look by day as wanted: the nearest of a lattice that is drawn together. */
function matched(wanted: Spectrum): Spectrum {
	const aim = byDay(wanted);
	const off = (amounts: number[]) => Math.hypot(...byDay(printed(amounts)).map((v, k) => v - aim[k]!));
	let amounts = [0.5, 0.5, 0.5, 0.5];
	for (let span = 0.4; span > 0.002; span *= 0.75) {
		for (let again = 0; again < 2; again++) {
			const around = Array.from({ length: 81 }, (_, n) =>
				amounts.map((v, k) => Math.max(0, v + span * ((Math.floor(n / 3 ** k) % 3) - 1)))
			);
			amounts = around.reduce((best, next) => (off(next) < off(best) ? next : best));
		}
	}
	return printed(amounts);
}
const CARDS = DYES.map((of, d) => {
	const values = [
		[0, 1, 2.5, 5, 10, 20],
		[0, 0.03, 0.06, 0.12, 0.25, 0.5, 1],
		[0, 0.5, 1, 2, 4, 8, 12],
		[0, 5, 10, 25, 50, 100],
		[0, 2, 4, 8, 16],
		[0, 0.1, 0.2, 0.4, 0.6]
	][d]!;
	const top = 0.9 + 0.15 * d;
	const last = values.at(-1)!;
	const vial = (value: number): Spectrum => {
		const depth = (top * Math.log1p((3 * value) / last)) / Math.log(4);
		return PAPER.map((v, i) => v * 10 ** (-depth * of[i]!));
	};
	return { values, vial, patches: values.map((v) => matched(vial(v))) };
});

interface Case {
	lamp: keyof typeof LAMPS;
	/** Place on the path, as a share of it. */
	at: number;
	/** White over the vial, as a share of the paper's light. */
	veil?: number;
	/** Absorbance of the water by itself at 440 nm: of humic matter, falling with the wave length (Bricaud and others 1981: 0.014 a nm). */
	tint?: number;
}
type Seen = { unseen: boolean; request: ColourRequest; value: number };
function photographed(seed: number, of: (random: () => number) => Case): Seen {
	const random = uniform(5000 + 11 * seed);
	for (let i = 0; i < 5; i++) random();
	const gauss = normal(random);
	const { lamp: name, at, veil = 0, tint = 0 } = of(random);
	const card = CARDS[seed % CARDS.length]!;
	const place = at * (card.values.length - 1);
	const i = Math.min(card.values.length - 2, Math.floor(place));
	const value = card.values[i]! + (place - i) * (card.values[i + 1]! - card.values[i]!);
	const lamp = LAMPS[name];
	const gamma = 2 + 0.5 * random();
	const noise = 1 + 3 * random();
	const exposure = 0.55 + 0.35 * random();
	const balance = 0.4 + 0.6 * random();
	const paper = sums(SENSOR, lamp, PAPER);
	const gains = paper.map((v) => Math.min(8, (paper[1]! / v) ** balance));
	const most = Math.max(...paper.map((v, c) => v * gains[c]!));
	const area = (surface: number[]): Samples => {
		const light = 1 + 0.012 * gauss();
		return Array.from(
			{ length: 120 },
			() =>
				surface.map((v, c) => {
					const linear = Math.max(0, (exposure * light * v * gains[c]!) / most);
					return Math.max(
						0,
						Math.min(255, Math.round(255 * Math.min(1, linear) ** (1 / gamma) + noise * gauss()))
					);
				}) as [number, number, number]
		);
	};
	const white = () => area(paper);
	const water = spectrum((nm) => 10 ** (-tint * Math.exp(-0.014 * (nm - 440))));
	const through = card.vial(value).map((v, k) => v * water[k]!);
	const vial = sums(SENSOR, lamp, through).map((v, c) => v + veil * paper[c]!);
	return {
		unseen: name === 'blue, a little red' && seed % CARDS.length === 5,
		value,
		request: {
			patches: card.values.map((v, k) => ({
				value: v,
				samples: area(sums(SENSOR, lamp, card.patches[k]!)),
				white: white()
			})),
			white: white(),
			vial: { samples: area(vial), white: white() }
		}
	};
}
const GAPS = ['three bands', 'three diodes', 'blue and violet', 'blue, a little red'] as const;
const one = <T>(of: readonly T[], random: () => number): T => of[Math.floor(random() * of.length)]!;
const any = (random: () => number) => one(Object.keys(LAMPS) as (keyof typeof LAMPS)[], random);

const FAMILIES: [string, (random: () => number) => Case][] = [
	['day, bulb and strip', (r) => ({ lamp: one(['day', 'bulb', 'strip'] as const, r), at: r() })],
	['lamps with gaps', (r) => ({ lamp: one(GAPS, r), at: r() })],
	['dark ends under lamps with gaps', (r) => ({ lamp: one(GAPS, r), at: 0.6 + 0.4 * r() })],
	['a veil of white over the vial', (r) => ({ lamp: any(r), at: r(), veil: 0.03 + 0.22 * r() })],
	['water that is yellow by itself', (r) => ({ lamp: any(r), at: r(), tint: 0.02 + 0.18 * r() })]
];

describe('a shade of other laws: other dyes, prints, lamps and cameras', () => {
	it('has cards that look as their vials do by day', () => {
		for (const { values, vial, patches } of CARDS)
			values.forEach((value, k) => {
				const [a, b] = [byDay(vial(value)), byDay(patches[k]!)];
				expect(Math.hypot(...a.map((v, c) => v - b[c]!))).toBeLessThan(8);
			});
	});

	it.each(FAMILIES)('%s: covered, and never far off without a flag', (name, make) => {
		const count = tries(48, 480);
		let [answered, held, silent, all] = [0, 0, 0, 0];
		for (let seed = 0; all < count; seed++) {
			const { request, value, unseen } = photographed(seed, make);
			// No picture can tell: the vial takes away light that this lamp does not have, and stands there pale beside its patch.
			if (unseen) continue;
			all++;
			const outcome = colour(request);
			if (!outcome.ok) throw new Error(JSON.stringify(outcome.problems));
			const { qualifier, value: said, interval, standardUncertainty, flags } = outcome.value;
			if (said === null && qualifier === '=') continue;
			answered++;
			const inside = value >= (interval[0] ?? -Infinity) - 1e-9 && value <= (interval[1] ?? Infinity) + 1e-9;
			if (inside) held++;
			const far = said === null ? !inside : Math.abs(said - value) > 3 * standardUncertainty!;
			if (far && flags.length === 0) silent++;
		}
		console.log(
			`measured: shade, ${name}: ${answered} of ${all} answered, covered ${((100 * held) / answered).toFixed(0)} %, far off without a flag ${silent}`
		);
		// The bars are 92 % and 2 %; so many tries scatter by so much about them.
		expect(held / answered).toBeGreaterThanOrEqual(0.92 - 2 * Math.sqrt((0.92 * 0.08) / answered));
		expect(silent / all).toBeLessThanOrEqual(0.02 + 2 * Math.sqrt((0.02 * 0.98) / all));
	});
});
