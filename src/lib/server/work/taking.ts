import { MessageChannel } from 'node:worker_threads';
import type { ImportProgress } from '../../api/imports';
import { inThread } from './pool';
import type { Given } from './tasks';

/** A sheet taken in by a thread, telling how far it is. Whoever stops listening stops it. */
export async function* takeInThread(given: Omit<Given<'takeIn'>, 'port'>): AsyncGenerator<ImportProgress> {
	const { port1, port2 } = new MessageChannel();
	const told: ImportProgress[] = [];
	/** Steps that have come, and how many the thread says it has sent: its last ones may still be on their way when it is done. */
	let come = 0;
	let sent = Infinity;
	let wake: (() => void) | undefined;
	port1.on('message', (step: ImportProgress) => {
		come++;
		told.push(step);
		wake?.();
	});
	const over = (steps: number) => {
		sent = steps;
		wake?.();
	};
	const work = inThread('sheets', 'takeIn', { ...given, port: port2 }, [port2, given.bytes.buffer]);
	work.then(over, () => over(0));
	try {
		for (;;) {
			while (told.length) yield told.shift()!;
			if (come >= sent) break;
			await new Promise<void>((done) => (wake = done));
		}
		await work;
	} finally {
		port1.close();
	}
}
