import { wasRefused } from '../refuse';
import { isUnavailable } from '../db/connection';
import { TASKS, type Task } from './tasks';

/** How a task ended, in words that cross between threads: errors lose their fields on that way. */
export type Ended =
	{ done: unknown } | { refused: { status: number; message: string } } | { unavailable: string };

/** What a thread of the pools runs, one task at a time. */
export default async function work({ task, given }: { task: Task; given: unknown }): Promise<Ended> {
	try {
		return { done: await (TASKS[task] as (given: unknown) => unknown)(given) };
	} catch (failure) {
		if (wasRefused(failure)) return { refused: { status: failure.status, message: failure.body.message } };
		if (isUnavailable(failure)) return { unavailable: (failure as Error).message };
		throw failure;
	}
}
