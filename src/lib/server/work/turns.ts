import { Unavailable } from '../db/client';

/** Whom a task is for, and what becomes of it while it waits. */
export interface Turn {
	/** A person by their id, or a stranger by their place. */
	who: string;
	/** Which page asks: what a newer request for it asks takes the place of what an older one still waits for. */
	page?: string | undefined;
	/** Which request asks; a page may ask for several things at once. */
	request?: object | undefined;
	/** Its sender has left, or it took too long. */
	signal?: AbortSignal | undefined;
}
/** How many tasks run at once, how many of them for one person, and how many wait for one person and in all. */
export interface Share {
	atOnce: number;
	each: number;
	waitingEach: number;
	waiting: number;
}

/** It was not computed, because of what else is asked for here. */
export class NoTurn extends Unavailable {}
/** Its person, or everybody, has too much waiting already. */
export class Crowded extends NoTurn {}
/** Nobody waits for it any more: its sender has left, or asked for the page again. */
export class GivenUp extends NoTurn {}

interface Waiting extends Turn {
	begin: () => void;
	refuse: (failure: Error) => void;
}

/**
 * Fair turns: whoever has something waiting has their next task begun before anybody's second (round robin, as fair queueing has it:
 * Nagle 1987, RFC 970), so that who asks for a hundred things waits for them and nobody else does.
 */
export function fairTurns({ atOnce, each, waitingEach, waiting: most }: Share) {
	/** By person, in the order in which their turn comes. */
	const queues = new Map<string, Waiting[]>();
	const running = new Map<string, number>();
	let busy = 0;
	let waiting = 0;

	const queueOf = (who: string): Waiting[] => queues.get(who) ?? [];
	function leave(task: Waiting): void {
		const queue = queueOf(task.who);
		const at = queue.indexOf(task);
		if (at < 0) return;
		queue.splice(at, 1);
		waiting--;
		if (!queue.length) queues.delete(task.who);
	}
	function next(): void {
		while (busy < atOnce) {
			const who = [...queues.keys()].find((w) => (running.get(w) ?? 0) < each);
			if (who === undefined) return;
			const queue = queueOf(who);
			const task = queue[0]!;
			leave(task);
			// Behind everybody else who waits.
			queues.delete(who);
			if (queue.length) queues.set(who, queue);
			busy++;
			running.set(who, (running.get(who) ?? 0) + 1);
			task.begin();
		}
	}
	function over(who: string): void {
		busy--;
		const left = running.get(who)! - 1;
		if (left) running.set(who, left);
		else running.delete(who);
		next();
	}
	function replace({ who, page, request }: Turn): void {
		for (const task of page === undefined ? [] : [...queueOf(who)])
			if (task.page === page && task.request !== request) {
				leave(task);
				task.refuse(new GivenUp(undefined, 'the same page was asked for again'));
			}
	}

	/** Does something when its turn comes. Throws `Crowded` or `GivenUp` where it never comes. */
	return async function inTurn<T>(turn: Turn, work: () => Promise<T>): Promise<T> {
		replace(turn);
		const { who, signal } = turn;
		if (signal?.aborted) throw new GivenUp(undefined, 'nobody waits for this');
		if (queueOf(who).length >= waitingEach) throw new Crowded(undefined, 'this person has too much waiting');
		if (waiting >= most) throw new Crowded(undefined, 'too much is waiting');
		let task: Waiting | undefined;
		const gone = () => {
			if (!task) return;
			leave(task);
			task.refuse(new GivenUp(undefined, 'nobody waits for this any more'));
		};
		try {
			await new Promise<void>((begin, refuse) => {
				task = { ...turn, begin, refuse };
				const queue = queueOf(who);
				queue.push(task);
				queues.set(who, queue);
				waiting++;
				signal?.addEventListener('abort', gone, { once: true });
				next();
			});
		} finally {
			signal?.removeEventListener('abort', gone);
		}
		try {
			return await work();
		} finally {
			over(who);
		}
	};
}
