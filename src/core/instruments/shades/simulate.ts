import { el } from '../../statistics';
import type { Chance, KitBias } from '../simulate';
import type { ShadesMethod, ShadesReading } from './schema';

/** An eye that sees the colour a third of a patch off now and then, always a little the same way, and says "between" where it cannot choose. */
export function matchedShade(
	{ shades }: ShadesMethod,
	truth: number,
	bias: KitBias,
	{ gauss }: Chance
): ShadesReading {
	const seen = truth * (1 + bias.relative);
	const last = shades.length - 1;
	const i = Math.max(
		0,
		shades.findLastIndex((s) => s <= seen)
	);
	// Past the last patch the colour deepens as it did before it.
	const gap = i < last ? el(shades, i + 1) - el(shades, i) : el(shades, last) - el(shades, last - 1);
	const place = i + (seen - el(shades, i)) / gap + gauss() * 0.15;
	const reads = 'shades';
	if (place > last + 0.5) return { reads, above: el(shades, last) };
	const nearest = Math.max(0, Math.min(last, Math.round(place)));
	if (Math.abs(place - nearest) < 0.3 || place < 0 || place > last)
		return { reads, shade: el(shades, nearest) };
	const low = Math.floor(place);
	return { reads, between: [el(shades, low), el(shades, low + 1)] };
}
