import type { Band } from '$core/targets';

/**
 * What a tube's glass or a ruler spans: with a band, the band is its middle third, so that all bands stand at one height
 * and a level out of band is seen from across the room; without, what the parameter usually shows.
 */
export function bandScale(
	usual: readonly [number, number],
	band: Band | undefined
): readonly [number, number] {
	if (!band) return usual;
	const width = band.upper - band.lower;
	return [Math.max(0, band.lower - width), band.upper + width];
}
