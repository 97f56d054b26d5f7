import { join } from 'node:path';
import { openCluster } from './cluster';
import { Failure, fail, say } from './failure';
import { isAlive, tryPort } from './machine';
import { dataFolder } from './places';

/** How often it is looked whether everybody lives, ms. */
const LOOK = 2000;

/** `tevrik cluster`: several machines on this one, with the demo, until Ctrl-C. Whatever of it dies is started again. */
async function main(): Promise<void> {
	const port = Number(process.env['PORT'] ?? 4173);
	if ((await tryPort(port)) === undefined)
		throw new Failure(
			`Port ${port} is taken. Stop what runs there, or choose another: PORT=${port + 1} ./tevrik cluster`
		);
	const cluster = await openCluster({ folder: join(dataFolder(), 'cluster'), port });
	for (const { name, pid } of [...cluster.nodes, ...cluster.servers]) say(`${name} is process ${pid}`);
	say(`the cluster answers at ${cluster.origin} (Ctrl-C ends it; kill any process of it and watch)`);
	const starting = new Set<string>();
	const watch = setInterval(() => {
		for (const part of [...cluster.nodes, ...cluster.servers]) {
			if (isAlive(part.pid) || starting.has(part.name)) continue;
			starting.add(part.name);
			say(`${part.name} has died; starting it again`);
			part
				.start()
				.then(
					() => say(`${part.name} is back, as process ${part.pid}`),
					(failure: unknown) => say(`${part.name} did not start: ${(failure as Error).message}`)
				)
				.finally(() => starting.delete(part.name));
		}
	}, LOOK);
	const end = () => {
		clearInterval(watch);
		say('stopping the cluster');
		cluster.stop().then(() => say('ended'), fail);
	};
	process.once('SIGINT', end);
	process.once('SIGTERM', end);
}

await main().catch(fail);
