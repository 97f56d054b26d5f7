import wasm from 'highs/runtime?url';
import { correct, loadSolver, type CorrectRequest, type CorrectResult } from '$core/adjust';
import type { Outcome } from '$core/base';

export interface PlanOrder {
	turn: number;
	request: CorrectRequest;
}
export interface PlanReport {
	turn: number;
	planned: Outcome<CorrectResult>;
}

/** The same programme as on the server, for what a keeper asks about on the page. */
onmessage = async ({ data }: MessageEvent<PlanOrder>) => {
	const solver = await loadSolver(wasm);
	postMessage({ turn: data.turn, planned: correct(data.request, solver) } satisfies PlanReport);
};
