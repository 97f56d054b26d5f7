import type { CorrectRequest, CorrectResult } from '$core/adjust';
import type { Outcome } from '$core/base';
import type { PlanOrder, PlanReport } from '$lib/workers/plan.worker';

/** Plans in a worker of its own: 3.5 MB of solver come only when somebody asks. One per page; `close` ends it. */
export function openPlans() {
	const worker = new Worker(new URL('../workers/plan.worker.ts', import.meta.url), { type: 'module' });
	let turn = 0;
	const waiting = new Map<number, (planned: Outcome<CorrectResult> | undefined) => void>();
	worker.onmessage = ({ data }: MessageEvent<PlanReport>) => {
		waiting.get(data.turn)?.(data.planned);
		waiting.delete(data.turn);
	};
	const giveUp = () => {
		for (const done of waiting.values()) done(undefined);
		waiting.clear();
	};
	worker.onerror = giveUp;
	return {
		/** A plan; undefined where the worker could not be had. */
		plan: (request: CorrectRequest): Promise<Outcome<CorrectResult> | undefined> =>
			new Promise((done) => {
				waiting.set(++turn, done);
				worker.postMessage({ turn, request } satisfies PlanOrder);
			}),
		close: () => {
			worker.terminate();
			giveUp();
		}
	};
}
