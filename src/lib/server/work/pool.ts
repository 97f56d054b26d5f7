import { MINUTE } from '../../../core/base';
import { availableParallelism } from 'node:os';
import { pathToFileURL } from 'node:url';
import { Piscina } from 'piscina';
import { Unavailable } from '../db/connection';
import { sender } from './sender';
import type { Done, Given, Task } from './tasks';
import { NoTurn, fairTurns } from './turns';
import type { Ended } from './worker';
import { refuse } from '../refuse';

/** A thread without work ends after this, ms, but for those that are kept. */
const IDLE = 30_000;

/** Niceness of what a page waits for, and of what takes long. */
const NEXT = 5;
const LAST = 15;

/**
 * Who waits for whom: what strangers ask never holds up a keeper's own page, nor a plan a level, nor a long file another's. Threads at
 * once; tasks that may wait in all and for one person; how long one may wait and take together (ms); memory (MB); how far it stands behind
 * (niceness): a page that waits for its model goes before what takes long anyway, and whoever only looks before both. One person has
 * one thread of a pool at a time.
 */
export const POOLS = {
	strangers: { threads: 1, waiting: 16, waitingEach: 8, time: 5000, memory: 256, kept: 1, nice: LAST },
	keepers: { threads: 1, waiting: 100, waitingEach: 20, time: 20_000, memory: 256, kept: 1, nice: NEXT },
	// A look at two hundred tanks asks for eight of each at a time.
	models: {
		threads: Math.max(1, Math.min(4, availableParallelism() - 1)),
		waiting: 500,
		waitingEach: 60,
		time: 20_000,
		memory: 512,
		kept: 1,
		nice: NEXT
	},
	plans: { threads: 1, waiting: 60, waitingEach: 4, time: 20_000, memory: 512, kept: 0, nice: LAST },
	// A sheet is read in turn and needs little; of a book all stands at once.
	sheets: { threads: 1, waiting: 20, waitingEach: 6, time: 15 * MINUTE, memory: 192, kept: 0, nice: LAST },
	files: { threads: 1, waiting: 8, waitingEach: 3, time: 5 * MINUTE, memory: 1024, kept: 0, nice: LAST }
};
type Pool = keyof typeof POOLS;
/** What has only just been made is collected when it has come to so much, MB: otherwise a thread of little work holds hundreds. */
const YOUNG = 64;

const made = new Map<Pool, Piscina>();
function poolOf(name: Pool, filename: string): Piscina {
	const known = made.get(name);
	if (known) return known;
	const { threads, memory, kept, nice } = POOLS[name];
	const pool = new Piscina({
		filename: pathToFileURL(filename).href,
		minThreads: kept,
		maxThreads: threads,
		idleTimeout: IDLE,
		niceIncrement: nice,
		resourceLimits: { maxOldGenerationSizeMb: memory, maxYoungGenerationSizeMb: YOUNG }
	});
	made.set(name, pool);
	return pool;
}

const turns = new Map<Pool, ReturnType<typeof fairTurns>>();
function turnsOf(name: Pool): ReturnType<typeof fairTurns> {
	const { threads, waiting, waitingEach } = POOLS[name];
	const known = turns.get(name) ?? fairTurns({ atOnce: threads, each: 1, waitingEach, waiting });
	turns.set(name, known);
	return known;
}

/** It took longer than one request may. */
export class TooLong extends NoTurn {}

/**
 * Hands a task to a thread of a pool when its sender's turn comes. Throws `TooLong`, `Crowded` where too much waits, `GivenUp` where
 * its sender has left or asked again, or what the task refused.
 */
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
	const turn = sender();
	const signal = turn.signal ? AbortSignal.any([stop, turn.signal]) : stop;
	let ended: Ended;
	try {
		ended = await turnsOf(name)({ ...turn, signal }, async () => {
			// What has begun is finished, so that it is there for whoever asks next.
			const options = { signal: stop, transferList: transfer as never };
			return (await poolOf(name, filename).run({ task, given }, options)) as Ended;
		});
	} catch (failure) {
		if (stop.aborted) throw new TooLong(failure, `${task} took longer than ${POOLS[name].time} ms`);
		throw failure;
	}
	if ('refused' in ended) refuse(ended.refused.status, ended.refused.message);
	if ('unavailable' in ended) throw new Unavailable(ended.unavailable);
	return ended.done as Done<T>;
}

/** Ends all threads. */
export async function closePools(): Promise<void> {
	await Promise.all([...made.values()].map((pool) => pool.destroy()));
	made.clear();
}
