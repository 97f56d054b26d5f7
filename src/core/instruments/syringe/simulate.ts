import { onScale, type Chance, type KitBias } from '../simulate';
import { DEFAULT_DROP_ML } from './observe';
import type { SyringeMethod, SyringeReading } from './schema';

export function seenOnSyringe(
	method: SyringeMethod,
	truth: number,
	bias: KitBias,
	{ random, gauss }: Chance
): SyringeReading {
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
	return readAs === 'left'
		? { reads: 'syringe', left: Number((fillMl - used).toFixed(4)), ...more }
		: { reads: 'syringe', used, ...more };
}
