import { planning, type BenchRequest, type BenchResult } from '$core/schedule';
import { restOf, type Rest, type Run } from '$core/run';
import type { Outcome } from '$core/base';

export type BenchOrder =
	| { turn: number; plan: BenchRequest }
	| { turn: number; rest: Run }
	/** Gives up what is being worked on; the best plan so far is the answer. */
	| { turn: number; stop: true };
export type BenchReport =
	| { turn: number; progress: BenchResult }
	| { turn: number; planned: Outcome<BenchResult> }
	| { turn: number; rest: Rest | undefined };

let newest = 0;
const say = (report: BenchReport) => postMessage(report);

/** Lets orders that came meanwhile be heard. */
const breath = () => new Promise((done) => setTimeout(done));

onmessage = async ({ data }: MessageEvent<BenchOrder>) => {
	newest = data.turn;
	if ('rest' in data) say({ turn: data.turn, rest: restOf(data.rest) });
	if (!('plan' in data)) return;
	const steps = planning(data.plan);
	let best: BenchResult | undefined;
	for (;;) {
		const { done, value } = steps.next();
		if (done) return say({ turn: data.turn, planned: value });
		if (value) say({ turn: data.turn, progress: (best = value) });
		await breath();
		if (newest !== data.turn) {
			if (best) say({ turn: data.turn, planned: { ok: true, value: best } });
			return;
		}
	}
};
