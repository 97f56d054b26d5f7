import { DEFAULT_DROP_ML, type Method, type RawReading } from '../methods';

/** What stays with one kit: how far its sample and titrant are off, as fractions. */
export interface KitBias {
	relative: number;
}

/** Draws the bias of a kit from its method's stated uncertainty. `gauss` gives standard normal numbers. */
export function drawKitBias(method: Method, gauss: () => number): KitBias {
	const { sampleRelative = 0, titrantRelative = 0 } = method.uncertainty ?? {};
	return { relative: gauss() * sampleRelative + gauss() * titrantRelative };
}

/**
 * What a careful keeper would see on the instrument of a method, in water of a true value in the method's unit. Only
 * linear syringes so far; refills as needed.
 */
export function observeTrue(
	method: Method,
	truth: number,
	bias: KitBias,
	random: () => number,
	gauss: () => number
): RawReading {
	if (method.reads !== 'syringe' || method.scale.kind !== 'linear')
		throw new Error(`no simulation for ${method.reads} with a table`);
	const { fillMl, graduationMl, readAs } = method.syringe;
	const dropMl = method.uncertainty?.dropMl ?? DEFAULT_DROP_ML;
	const needed = ((truth - (method.scale.atZero ?? 0)) / method.scale.perMl) * (1 + bias.relative);
	// Whole drops fall: the last one is on average half wasted, which a chart allows for.
	const run = Math.max(0, needed + (random() - 0.5) * dropMl + gauss() * graduationMl * 0.2);
	const refills = Math.floor(run / fillMl);
	const onScale = Math.round((run - refills * fillMl) / graduationMl) * graduationMl;
	const used = Math.min(fillMl, Number(onScale.toFixed(4)));
	const more = refills > 0 ? { refills } : {};
	return readAs === 'left' ? { left: Number((fillMl - used).toFixed(4)), ...more } : { used, ...more };
}
