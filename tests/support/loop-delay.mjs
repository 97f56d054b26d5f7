/**
 * Loaded into the server before anything else: tells on SIGUSR2, as a line of JSON, by how much its event loop was late since it
 * was asked last (perf_hooks), ms, and how much memory it has, bytes.
 */
import { monitorEventLoopDelay } from 'node:perf_hooks';
import { isMainThread } from 'node:worker_threads';

/** How often it is looked whether the loop comes round, ms: the delay is what is over that. */
const LOOK = 5;

if (isMainThread) {
	const delay = monitorEventLoopDelay({ resolution: LOOK });
	delay.enable();
	process.on('SIGUSR2', () => {
		const ms = (ns) => Math.max(0, ns / 1e6 - LOOK);
		process.stdout.write(
			`${JSON.stringify({
				loopDelay: { p99: ms(delay.percentile(99)), most: ms(delay.max) },
				memory: process.memoryUsage().rss
			})}\n`
		);
		delay.reset();
	});
}
