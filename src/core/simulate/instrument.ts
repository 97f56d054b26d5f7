import { instrumentOf, type Chance, type KitBias, type Method, type RawReading } from '../instruments';

const endsAfterDrop = (method: Method): boolean =>
	instrumentOf(method).titration?.endsAfterDrop(method) ?? false;

/** Draws the bias of a kit from its method's stated uncertainty. */
export function drawKitBias(method: Method, { random, gauss }: Chance): KitBias {
	const { sampleRelative = 0, titrantRelative = 0 } = method.uncertainty ?? {};
	const promised = instrumentOf(method).promised?.(method) ?? {};
	const within = (halfWidth = 0) => (2 * random() - 1) * halfWidth;
	return {
		relative: gauss() * sampleRelative + gauss() * titrantRelative + within(promised.relative),
		absolute: within(promised.absolute),
		// Half of all charts allow for the drop that was too much: on average half of it.
		allowed: endsAfterDrop(method) && random() < 0.5 ? 0.5 : 0
	};
}

/**
 * What a careful keeper would see on the instrument of a method, in water of a true value in the method's unit: scatter
 * and rounding as the method's error budget has them.
 */
export const observeTrue = (method: Method, truth: number, bias: KitBias, chance: Chance): RawReading =>
	instrumentOf(method).simulate(method, truth, bias, chance);

/**
 * What a method would show in water of a true value if nothing went wrong: for judging the method itself.
 *
 * @example observeIdeal(SHIPPED_METHODS[0], 8.3) // → { reads: 'syringe', left: 0.51 }
 */
export const observeIdeal = (method: Method, truth: number): RawReading =>
	observeTrue(
		method,
		truth,
		{ relative: 0, absolute: 0, allowed: endsAfterDrop(method) ? 0.5 : 0 },
		{ random: () => 0.5, gauss: () => 0 }
	);
