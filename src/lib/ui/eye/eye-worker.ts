import { bad, type Outcome } from '$core/base';
import type { EyeAnswers, EyeOrder, EyeReport } from '$lib/workers/eye.worker';

const BROKEN = bad(
	'',
	'Pictures cannot be read here just now. Nothing is lost: read by hand, or try again with the network.'
);

type Kind = keyof EyeAnswers;
type OrderOf<K extends Kind> = Extract<EyeOrder, Record<K, unknown>>;

/** A picture is opened and read in a worker of its own: the page stays free, and nothing of it leaves the device. `close` ends it. */
export function openEye() {
	const worker = new Worker(new URL('../../workers/eye.worker.ts', import.meta.url), { type: 'module' });
	let turn = 0;
	const waiting = new Map<number, (outcome: Outcome<unknown>) => void>();
	worker.onmessage = ({ data }: MessageEvent<EyeReport>) => {
		waiting.get(data.turn)?.(data.outcome);
		waiting.delete(data.turn);
	};
	// A worker that cannot be fetched, or breaks, answers all that waits; nobody waits for it again.
	let broken = false;
	worker.onerror = () => {
		broken = true;
		for (const answer of waiting.values()) answer(BROKEN);
		waiting.clear();
	};
	return {
		/** Orders are done one after the other; each has its answer. */
		ask<K extends Kind>(order: OrderOf<K>): Promise<Outcome<EyeAnswers[K]>> {
			const mine = ++turn;
			const bitmaps = 'frames' in order ? order.frames : 'live' in order ? [order.live] : [];
			if (broken) return Promise.resolve(BROKEN);
			return new Promise((done) => {
				waiting.set(mine, done as (outcome: Outcome<unknown>) => void);
				worker.postMessage({ turn: mine, order }, bitmaps);
			});
		},
		close: () => worker.terminate()
	};
}
