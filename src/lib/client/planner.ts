import type { BenchRequest, BenchResult } from '$core/schedule';
import type { Rest, Run } from '$core/run';
import type { Outcome } from '$core/base';
import type { BenchOrder, BenchReport } from '$lib/workers/bench.worker';

/** Plans runs in a worker of its own, so that the page stays free. One per page; `close` ends it. */
export function openPlanner() {
	const worker = new Worker(new URL('../workers/bench.worker.ts', import.meta.url), { type: 'module' });
	let turn = 0;
	let heard: (report: BenchReport) => void = () => undefined;
	worker.onmessage = ({ data }: MessageEvent<BenchReport>) => {
		if (data.turn === turn) heard(data);
	};
	const order = (what: BenchOrder) => worker.postMessage(what);
	return {
		/** Several requests, one after the other; whoever asks again gives up what was asked before. */
		async plan(
			requests: BenchRequest[],
			onprogress: (best: BenchResult) => void
		): Promise<Outcome<BenchResult>[] | undefined> {
			const asked: Outcome<BenchResult>[] = [];
			for (const request of requests) {
				const mine = ++turn;
				const outcome = await new Promise<Outcome<BenchResult> | undefined>((done) => {
					heard = (report) => {
						if ('progress' in report) onprogress(report.progress);
						else if ('planned' in report) done(report.planned);
					};
					order({ turn: mine, plan: request });
				});
				if (!outcome || mine !== turn) return undefined;
				asked.push(outcome);
			}
			return asked;
		},
		/** The rest of a run; undefined where nothing is left. */
		rest(run: Run, answer: (rest: Rest | undefined) => void): void {
			heard = (report) => {
				if ('rest' in report) answer(report.rest);
			};
			order({ turn: ++turn, rest: run });
		},
		/** Takes the best plan so far. */
		stop(): void {
			worker.postMessage({ turn: turn + 0.5, stop: true } satisfies BenchOrder);
		},
		close: () => worker.terminate()
	};
}
export type Planner = ReturnType<typeof openPlanner>;
