import { error } from '@sveltejs/kit';
import { availableParallelism } from 'node:os';
import { pathToFileURL } from 'node:url';
import { Piscina } from 'piscina';
import { Unavailable } from '../db/connection';
import type { Done, Given, Task } from './tasks';
import type { Ended } from './worker';

/** A thread without work ends after this, ms, but for those that are kept. */
const IDLE = 30_000;

/**
 * Who waits for whom: what strangers ask never holds up a keeper's own page, nor a long file another's. Threads at once, tasks
 * that may wait, how long one may wait and take together (ms), and memory (MB).
 */
const POOLS = {
	strangers: { threads: 1, waiting: 16, time: 5000, memory: 256, kept: 1 },
	keepers: { threads: 1, waiting: 100, time: 20_000, memory: 256, kept: 1 },
	models: {
		threads: Math.max(1, Math.min(4, availableParallelism() - 1)),
		waiting: 500,
		time: 20_000,
		memory: 512,
		kept: 1
	},
	files: { threads: 1, waiting: 8, time: 15 * 60_000, memory: 2048, kept: 0 }
};
type Pool = keyof typeof POOLS;

const made = new Map<Pool, Piscina>();
function poolOf(name: Pool, filename: string): Piscina {
	const known = made.get(name);
	if (known) return known;
	const { threads, waiting, memory, kept } = POOLS[name];
	const pool = new Piscina({
		filename: pathToFileURL(filename).href,
		minThreads: kept,
		maxThreads: threads,
		maxQueue: waiting,
		idleTimeout: IDLE,
		// Whoever only looks at a page goes first.
		niceIncrement: 10,
		resourceLimits: { maxOldGenerationSizeMb: memory }
	});
	made.set(name, pool);
	return pool;
}

/** It took longer than one request may. */
export class TooLong extends Unavailable {}

/** Hands a task to a thread of a pool. Throws `TooLong`, `Unavailable` where too many wait, or what the task refused. */
export async function inThread<T extends Task>(
	name: Pool,
	task: T,
	given: Given<T>,
	transfer: unknown[] = []
): Promise<Done<T>> {
	// Commands and tests of the stores run in one thread as it is.
	const filename = process.env['TEVRIK_WORKER'];
	if (!filename) {
		const { TASKS } = await import('./tasks');
		return (await (TASKS[task] as (given: unknown) => unknown)(given)) as Done<T>;
	}
	const stop = AbortSignal.timeout(POOLS[name].time);
	let ended: Ended;
	try {
		ended = (await poolOf(name, filename).run(
			{ task, given },
			{ signal: stop, transferList: transfer as never }
		)) as Ended;
	} catch (failure) {
		if (stop.aborted) throw new TooLong(failure, `${task} took longer than ${POOLS[name].time} ms`);
		if (/queue is at limit/i.test((failure as Error).message))
			throw new Unavailable(failure, 'too many wait');
		throw failure;
	}
	if ('refused' in ended) error(ended.refused.status, ended.refused.message);
	if ('unavailable' in ended) throw new Unavailable(ended.unavailable);
	return ended.done as Done<T>;
}

/** Ends all threads. */
export async function closePools(): Promise<void> {
	await Promise.all([...made.values()].map((pool) => pool.destroy()));
	made.clear();
}
