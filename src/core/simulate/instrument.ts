import { el, readingAt } from '../statistics';
import {
	type Table,
	DEFAULT_DROP_ML,
	DEFAULT_DROP_RELATIVE,
	type Method,
	type RawReading,
	type Shown,
	type SyringeMethod
} from '../methods';
import { convert, isQuantity } from '../quantities';

/** Where chance comes from: uniform numbers in [0, 1) and standard normal ones. */
export interface Chance {
	random: () => number;
	gauss: () => number;
}

/** What stays with one kit and batch: how far it is off, as a fraction, and in the instrument's shown unit; and what of the last drop its chart allows for. */
export interface KitBias {
	relative: number;
	absolute: number;
	allowed: number;
}

/** Draws the bias of a kit from its method's stated uncertainty. */
export function drawKitBias(method: Method, { random, gauss }: Chance): KitBias {
	const { sampleRelative = 0, titrantRelative = 0 } = method.uncertainty ?? {};
	const promised: Partial<Shown> =
		method.reads === 'display' || method.reads === 'scale-line' ? method.display : {};
	const within = (halfWidth = 0) => (2 * random() - 1) * halfWidth;
	return {
		relative: gauss() * sampleRelative + gauss() * titrantRelative + within(promised.relative),
		absolute: within(promised.absolute),
		// Half of all charts allow for the drop that was too much: on average half of it.
		allowed: endsAfterDrop(method) && random() < 0.5 ? 0.5 : 0
	};
}

const endsAfterDrop = (method: Method): boolean =>
	(method.reads === 'syringe' || method.reads === 'drops') && method.endPoint !== 'mid-drop';

/**
 * What a careful keeper would see on the instrument of a method, in water of a true value in the method's unit: scatter
 * and rounding as the method's error budget has them.
 */
export function observeTrue(method: Method, truth: number, bias: KitBias, chance: Chance): RawReading {
	const { gauss } = chance;
	switch (method.reads) {
		case 'syringe':
			return observeOnSyringe(method, truth, bias, chance);
		case 'drops': {
			const needed = onScale(method.scale, truth, (s) => s.perDrop) * (1 + bias.relative);
			const scatter = 1 + gauss() * (method.uncertainty?.dropRelative ?? DEFAULT_DROP_RELATIVE);
			// Whole drops fall until it has turned: the last is on average half wasted.
			return { drops: Math.max(0, Math.ceil(needed * scatter - bias.allowed)) };
		}
		case 'shades':
			return matchShade(method.shades, truth * (1 + bias.relative), chance);
		case 'display':
		case 'scale-line': {
			const { display, parameter, unit } = method;
			const shown =
				isQuantity(parameter) && unit !== display.unit
					? convert({ quantity: parameter, value: truth, from: unit, to: display.unit })
					: undefined;
			const exact = shown ? (shown.ok ? shown.value.value : truth) : truth;
			const step = display.graduation ?? display.resolution ?? 0.01;
			const seen = exact * (1 + bias.relative) + bias.absolute + gauss() * step * 0.2;
			const [low, high] = display.range ?? [-Infinity, Infinity];
			return { shown: Number(Math.max(low, Math.min(high, Math.round(seen / step) * step)).toPrecision(10)) };
		}
	}
}

/** Where a value stands on a method's scale; past the ends of a chart, at its nearer end. */
function onScale<T extends { kind: 'linear'; atZero?: number }>(
	scale: T | Table,
	value: number,
	per: (linear: T) => number
): number {
	if (scale.kind === 'linear') return (value - ((scale as T).atZero ?? 0)) / per(scale as T);
	const at = readingAt(scale.points, value);
	if (at !== undefined) return at;
	return scale.points.reduce((best, p) => (Math.abs(p[1] - value) < Math.abs(best[1] - value) ? p : best))[0];
}

function observeOnSyringe(
	method: SyringeMethod,
	truth: number,
	bias: KitBias,
	{ random, gauss }: Chance
): RawReading {
	const { fillMl, graduationMl, readAs } = method.syringe;
	const dropMl = method.uncertainty?.dropMl ?? DEFAULT_DROP_ML;
	const seen = onScale(method.scale, truth, (s) => s.perMl);
	const byLeft = method.scale.kind === 'table' && method.scale.by === 'left';
	const needed = (byLeft ? fillMl - seen : seen) * (1 + bias.relative);
	// Whole drops fall until it has turned: the last is on average half wasted.
	const run = Math.max(0, needed + (random() - bias.allowed) * dropMl + gauss() * graduationMl * 0.2);
	const refills = Math.floor(run / fillMl);
	const atLine = Math.round((run - refills * fillMl) / graduationMl) * graduationMl;
	const used = Math.min(fillMl, Number(atLine.toFixed(4)));
	const more = refills > 0 ? { refills } : {};
	return readAs === 'left' ? { left: Number((fillMl - used).toFixed(4)), ...more } : { used, ...more };
}

/** An eye that sees the colour a third of a patch off now and then, always a little the same way, and says "between" where it cannot choose. */
function matchShade(shades: number[], truth: number, { gauss }: Chance): RawReading {
	const last = shades.length - 1;
	const i = Math.max(
		0,
		shades.findLastIndex((s) => s <= truth)
	);
	// Past the last patch the colour deepens as it did before it.
	const gap = i < last ? el(shades, i + 1) - el(shades, i) : el(shades, last) - el(shades, last - 1);
	const place = i + (truth - el(shades, i)) / gap + gauss() * 0.15;
	if (place > last + 0.5) return { above: el(shades, last) };
	const nearest = Math.max(0, Math.min(last, Math.round(place)));
	if (Math.abs(place - nearest) < 0.3 || place < 0 || place > last) return { shade: el(shades, nearest) };
	const low = Math.floor(place);
	return { between: [el(shades, low), el(shades, low + 1)] };
}

/**
 * What a method would show in water of a true value if nothing went wrong: for judging the method itself.
 *
 * @example observeIdeal(SHIPPED_METHODS[0], 8.3) // → { left: 0.51 }
 */
export const observeIdeal = (method: Method, truth: number): RawReading =>
	observeTrue(
		method,
		truth,
		{ relative: 0, absolute: 0, allowed: endsAfterDrop(method) ? 0.5 : 0 },
		{ random: () => 0.5, gauss: () => 0 }
	);
