import { MessageChannel } from 'node:worker_threads';
import type { ImportProgress } from '../../api/imports';
import { inThread } from './pool';
import type { Given } from './tasks';

/** A sheet taken in by a thread, telling how far it is. Whoever stops listening stops it. */
export async function* takeInThread(given: Omit<Given<'takeIn'>, 'port'>): AsyncGenerator<ImportProgress> {
	const { port1, port2 } = new MessageChannel();
	const told: ImportProgress[] = [];
	let over = false;
	let wake: (() => void) | undefined;
	const done = () => {
		over = true;
		wake?.();
	};
	// The thread says when it has said all; one that never began says nothing.
	port1.on('message', (step: ImportProgress | null) => {
		if (step === null) return done();
		told.push(step);
		wake?.();
	});
	const work = inThread('sheets', 'takeIn', { ...given, port: port2 }, [port2, given.bytes.buffer]);
	work.catch(done);
	try {
		for (;;) {
			while (told.length) yield told.shift()!;
			if (over) break;
			await new Promise<void>((done) => (wake = done));
		}
		await work;
	} finally {
		port1.close();
	}
}
