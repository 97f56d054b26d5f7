import { setTimeout as pause } from 'node:timers/promises';
import type { BenchRequest, BenchResult } from '../../../core/schedule';
import { unlessBusy } from '../memory';
import { inThread } from './pool';

/** Partial plans looked at for a page's first plan: a third of a second, and an ordinary run is settled by then. */
const EFFORT = 10_000;
/** A page waits so long for it and no longer, ms: then it plans for itself. */
const PATIENCE = 600;

/** The plan a page comes with, so that nothing moves under a thumb when it is there; none where the machine is busy. */
export const planInTime = (request: BenchRequest): Promise<BenchResult | undefined> =>
	Promise.race([
		unlessBusy(
			() => inThread('models', 'runPlan', { ...request, effort: EFFORT }),
			() => undefined
		),
		pause(PATIENCE, undefined, { ref: false })
	]);
