import { formatHex } from 'culori/fn';
import { bad, good, nth, type Outcome } from '../base';
import {
	covarianceOfMean,
	labIn,
	lookedAt,
	outer,
	plus,
	looksDifferent,
	type Looked,
	type Triple
} from './area';
import { onPath, valueAt, type Patch } from './path';
import { posterior } from './posterior';
import type { Cast, ColourFlag, ColourRequest, ColourResult } from './schema';

/** Light differs between two places of a picture by so much where the ground beside each was seen, and where it was not. */
const LIGHT_BESIDE = 0.015;
const LIGHT_ANYWHERE = 0.03;
/** CIEDE2000 from the path from which on it is another hue than the card's. */
const OFF_THE_PATH = 6;
/** Relative spread of the ground's brightness from which on the light is uneven. */
const UNEVEN = 0.08;
/** A channel of the ground below this share of its brightest has no light to speak of: it is not made more of. */
const LEAST_CHANNEL = 0.02;
/** Chroma of the ground (CIELAB) from which on the light has a colour. */
const CAST = 18;

/**
 * A shade from a photograph: where a vial's colour lies on the path of the card's patches, all in one picture, so that the card is its own
 * calibration. Colours go to CIELAB under the picture's own white; the nearest place is found by total least squares (vial and patches
 * both have their pixels' covariance), as a posterior over the path with equal chances a step, over what may lie between vial and print too. Clipped, glaring, dark or tiny areas are refused: no value then, and what is wrong. Problems: patches out of order.
 *
 * @example const of = (g) => Array.from({ length: 30 }, () => [230, g, 220]); colour({ patches: [{ value: 0, samples: of(230) }, { value: 5, samples: of(190) }, { value: 10, samples: of(150) }], vial: { samples: of(170) } }).value.position.between // → [5, 10]
 */
export function colour(request: ColourRequest): Outcome<ColourResult> {
	const { patches: given, vial: sample, zero } = request;
	for (let i = 1; i < given.length; i++)
		if (!(nth(given, i).value > nth(given, i - 1).value))
			return bad(`/patches/${i}/value`, 'must be higher than the patch before it: palest value first');

	const ground = request.white && lookedAt(request.white);
	const areas = given.map((p) => ({
		value: p.value,
		looked: lookedAt(p.samples),
		white: p.white && lookedAt(p.white)
	}));
	const vial = { looked: lookedAt(sample.samples), white: sample.white && lookedAt(sample.white) };
	const untreated = zero && { looked: lookedAt(zero.samples), white: zero.white && lookedAt(zero.white) };
	const where: ColourResult['where'] = [
		...areas.flatMap(({ looked }, area) => looked.flags.map((flag) => ({ flag, area }))),
		...vial.looked.flags.map((flag) => ({ flag, area: 'vial' as const })),
		...(untreated?.looked.flags.map((flag) => ({ flag, area: 'zero' as const })) ?? [])
	];
	if (ground && ground.spread > UNEVEN) where.push({ flag: 'uneven-light', area: 'white' });

	const beside = areas.every((p) => p.white) && vial.white !== undefined;
	const brightest = areas.reduce((a, b) => (b.looked.mean[1] > a.looked.mean[1] ? b : a)).looked;
	const common = whiteOf(ground ?? brightest);
	const whiteAt = (own: Looked | undefined): Triple => (beside && own ? whiteOf(own) : common);
	const path = areas.map(({ value, looked, white }): Patch => ({
		value,
		lab: labIn(looked.mean, whiteAt(white)),
		covariance: covarianceOfMean(looked, whiteAt(white))
	}));
	const bright = areas.flatMap(({ looked, white }, i) =>
		outshines(looked, whiteAt(white), beside) ? [i] : []
	);
	for (const i of new Set([...outOfRow(path), ...bright])) where.push({ flag: 'glare', area: i });
	if (outshines(vial.looked, whiteAt(vial.white), beside)) where.push({ flag: 'glare', area: 'vial' });
	const seen = untreated
		? throughWater(
				vial.looked,
				untreated.looked,
				whiteAt(untreated.white),
				areas[0]!.looked,
				ground ?? areas[0]!.white
			)
		: vial.looked;
	const white = whiteAt(untreated ? untreated.white : vial.white);
	const lab = labIn(seen.mean, white);
	const light = beside ? LIGHT_BESIDE : Math.hypot(LIGHT_ANYWHERE, ground?.spread ?? LIGHT_ANYWHERE);
	const own = plus(covarianceOfMean(seen, white), outer(byLight(seen.mean, white, light)));

	const found = posterior(path, lab, own, untreated !== undefined);
	const distance = looksDifferent(lab, onPath(path, found.best).lab);
	if (distance > OFF_THE_PATH) where.push({ flag: 'off-the-path', area: 'vial' });
	const flags = [...new Set(where.map((w) => w.flag))];
	const about = {
		distance,
		flags,
		where,
		cast: castOf(ground ?? brightest),
		colours: path.map((p) => hexOf(p.lab))
	};
	return good({
		...(flags.some((flag) => REFUSED.includes(flag)) ? NOT_READ : placed(path, found)),
		...about
	});
}

type Placed = Omit<ColourResult, 'distance' | 'flags' | 'where' | 'cast' | 'colours'>;

const NOT_READ: Placed = {
	position: null,
	qualifier: '=',
	value: null,
	interval: [null, null],
	standardUncertainty: null,
	stepUncertainty: null
};

/** What the place on the path is worth: a value, or that it lies before the first patch or beyond the last. */
function placed(path: Patch[], found: ReturnType<typeof posterior>): Placed {
	const [first, last] = [nth(path, 0).value, nth(path, path.length - 1).value];
	if (found.beyond === '<')
		return {
			...NOT_READ,
			position: { between: [first, nth(path, 1).value], at: 0 },
			qualifier: '<',
			interval: [null, first]
		};
	if (found.beyond === '>')
		return {
			...NOT_READ,
			position: { between: [nth(path, path.length - 2).value, last], at: 1 },
			qualifier: '>',
			interval: [last, null]
		};
	const i = Math.min(path.length - 2, Math.floor(found.mean));
	return {
		position: { between: [nth(path, i).value, nth(path, i + 1).value], at: found.mean - i },
		qualifier: '=',
		value: valueAt(path, found.mean),
		interval: [valueAt(path, found.low), valueAt(path, found.high)],
		standardUncertainty: found.valueDeviation,
		stepUncertainty: found.deviation
	};
}

/** No print outshines its paper: brighter by so much (luminance), beside it or anywhere in the picture, it mirrors a lamp. */
const OUTSHINES = { beside: 1.12, anywhere: 1.4 };
/** Of linear sRGB (IEC 61966-2-1). */
const luminance = ([r, g, b]: Triple) => 0.2126 * r + 0.7152 * g + 0.0722 * b;

const outshines = ({ mean }: Looked, white: Triple, beside: boolean): boolean =>
	luminance(mean) > OUTSHINES[beside ? 'beside' : 'anywhere'] * luminance(white);

/** By so much more than the straight way does the way over a patch go, CIELAB units and as a share, before it is out of its row. */
const DETOUR = 6;
const DETOUR_SHARE = 0.8;

/** Patches that lie off the way from the one before to the one after: a lamp mirrored there veils them evenly. */
function outOfRow(path: Patch[]): number[] {
	const apart = (a: Patch, b: Patch) => Math.hypot(...a.lab.map((v, c) => v - b.lab[c as 0]));
	return path.slice(2).flatMap((after, k) => {
		const [before, at] = [nth(path, k), nth(path, k + 1)];
		const straight = apart(before, after);
		return apart(before, at) + apart(at, after) - straight > Math.max(DETOUR, DETOUR_SHARE * straight)
			? [k + 1]
			: [];
	});
}

const REFUSED: ColourFlag[] = ['clipped', 'glare', 'dark', 'too-few-pixels'];

/** The light itself, from white ground: each channel, none taken for darker than can be told. */
function whiteOf({ mean }: Looked): Triple {
	const least = LEAST_CHANNEL * Math.max(...mean);
	return mean.map((v) => Math.max(v, least, 1e-4)) as Triple;
}

/** A vial without its water's own tint: as much darker than the untreated one as the light is, held against the palest patch or the ground. */
function throughWater(
	vial: Looked,
	untreated: Looked,
	white: Triple,
	palest: Looked,
	ground: Looked | undefined
): Looked {
	const towards = ground ? white : palest.mean;
	const share = towards.map((v, c) => v / Math.max(untreated.mean[c as 0], 1e-4));
	const through = (p: Triple) => p.map((v, c) => v * share[c as 0]!) as Triple;
	return { ...vial, light: vial.light.map(through), mean: through(vial.mean) };
}

/** How a colour moves when the light there is brighter by one standard deviation. */
function byLight(light: Triple, white: Triple, relative: number): Triple {
	const brighter = labIn(light.map((v) => v * (1 + relative)) as Triple, white);
	return labIn(light, white).map((v, c) => brighter[c as 0] - v) as Triple;
}

/** What colour the light is, by what it makes of white. */
function castOf({ mean }: Looked): Cast {
	const top = Math.max(...mean, 1e-6);
	const [, a, b] = labIn(mean, [top, top, top]);
	if (Math.hypot(a, b) < CAST) return 'none';
	return b < -CAST / 2 ? 'blue' : b > CAST / 2 ? 'warm' : 'other';
}

const hexOf = ([l, a, b]: Triple): string => formatHex({ mode: 'lab65', l, a, b });
