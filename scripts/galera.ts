import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { Failure, say } from './failure';
import { secret, tryPort } from './machine';
import {
	LOOPBACK,
	NAME,
	askServer,
	connectAsRoot,
	letIn,
	serverHome,
	startServer,
	stopServer,
	type Home
} from './mariadb-server';

/** Where Debian's galera-4 puts its library. */
const PROVIDER = '/usr/lib/galera/libgalera_smm.so';
/** How many machines a cluster has here: with three, two still agree when one is gone. */
export const NODES = 3;
/** All of one node lies on the loopback, on ports of its own: for statements, for the group, for what it missed, for a whole copy. */
interface Ports {
	sql: number;
	group: number;
	missed: number;
	copy: number;
}
/** A node that says nothing for so long is taken for gone by the others (ISO 8601). */
const TIMES =
	'evs.keepalive_period=PT0.5S;evs.inactive_check_period=PT0.5S;evs.suspect_timeout=PT2S;evs.inactive_timeout=PT4S;evs.install_timeout=PT4S';

export interface Node {
	name: string;
	pid: number;
	url: string;
	/** As a power cut would. */
	kill(): void;
	/** Joins again and fetches what it missed. */
	start(): Promise<void>;
}
export interface Galera {
	nodes: Node[];
	/** For DATABASE_URL: all nodes, the one of that number first. */
	url(first: number): string;
	stop(): Promise<void>;
}

/** Where a node runs: its address, and what its program is begun with. */
export interface Place {
	address: string;
	within: string[];
}
const HERE: Place = { address: LOOPBACK, within: [] };

/**
 * Three MariaDB servers that keep the same, under `folder`; ones that were there go on with what they had. All lie on the loopback but
 * where places are named, the first of which are for the first nodes and the last for the rest; `from` is the application's address.
 */
export async function openGalera(folder: string, places = [HERE], from = LOOPBACK): Promise<Galera> {
	if (!existsSync(PROVIDER))
		throw new Failure(`${PROVIDER} is not on this machine. Ask for Debian's package galera-4.`);
	const home = resolve(folder);
	mkdirSync(home, { recursive: true, mode: 0o755 });
	const ports = await portsOf(join(home, 'ports.json'));
	const password = secret(join(home, 'database-password'));
	const homes = ports.map((_, n) => serverHome(join(home, `node-${n + 1}`)));
	// rsync, which carries the copies, gives up its rights where it runs as root.
	if (homes.some((each) => each.account === 'root'))
		throw new Failure(`The account mysql must be able to reach ${home}: give others the right to enter it.`);
	for (const each of homes)
		if (await connectAsRoot(each).then(ended, () => false))
			throw new Failure(`A node of an earlier cluster still runs (process ${pidIn(each)}). End it first.`);

	const place = (n: number): Place => places[n] ?? places.at(-1)!;
	const at = (n: number, port: number): string => `${place(n).address}:${port}`;
	const address = `gcomm://${ports.map((p, n) => at(n, p.group)).join(',')}`;
	const options = (n: number, founder: boolean): string[] => [
		'--wsrep-on=ON',
		`--wsrep-provider=${PROVIDER}`,
		`--wsrep-cluster-name=${NAME}`,
		`--wsrep-node-name=node-${n + 1}`,
		`--wsrep-cluster-address=${address}`,
		`--bind-address=${place(n).address}`,
		`--wsrep-node-address=${at(n, ports[n]!.group)}`,
		`--wsrep-node-incoming-address=${at(n, ports[n]!.sql)}`,
		`--wsrep-provider-options=base_host=${place(n).address};base_port=${ports[n]!.group};gmcast.listen_addr=tcp://${at(n, ports[n]!.group)};ist.recv_addr=${at(n, ports[n]!.missed)};${TIMES}`,
		'--wsrep-sst-method=rsync',
		`--wsrep-sst-receive-address=${at(n, ports[n]!.copy)}`,
		'--binlog-format=ROW',
		'--innodb-autoinc-lock-mode=2',
		// What one node has not written yet, the other two have; the first has written all that it has applied when the power is cut.
		`--innodb-flush-log-at-trx-commit=${n === 0 ? 1 : 2}`,
		...(founder ? ['--wsrep-new-cluster'] : [])
	];
	const nodes: Node[] = homes.map((each, n) => ({
		name: `node-${n + 1}`,
		pid: 0,
		url: `mysql://${NAME}:${password}@${at(n, ports[n]!.sql)}/${NAME}`,
		kill() {
			process.kill(this.pid, 'SIGKILL');
		},
		async start() {
			this.pid = await startServer(each, ports[n]!.sql, options(n, false), place(n).within);
		}
	}));
	const stop = async () => {
		// One after another: the last one knows that it was the last.
		for (const node of [...nodes].reverse()) if (node.pid) await stopServer(node.pid);
	};
	const founder = founderOf(homes);
	say(`starting ${NODES} database machines on the loopback`);
	try {
		nodes[founder]!.pid = await startServer(
			homes[founder]!,
			ports[founder]!.sql,
			options(founder, true),
			place(founder).within
		);
		await letIn(homes[founder]!, password, from);
		for (const [n, node] of nodes.entries()) if (n !== founder) await node.start();
	} catch (failure) {
		await stop();
		throw failure;
	}
	return {
		nodes,
		url: (first) => {
			const order = nodes.map((_, n) => (first + n) % NODES);
			const hosts = order.map((n) => at(n, ports[n]!.sql));
			return `mysql://${NAME}:${password}@${hosts.join(',')}/${NAME}`;
		},
		stop
	};
}

const ended = (connection: { end(): Promise<void> }): Promise<true> => connection.end().then(() => true);
const pidIn = (home: Home): string => readFileSync(join(home.datadir, 'tevrik.pid'), 'utf8').trim();

/** Ports stay as they are: nodes know each other by them. */
async function portsOf(file: string): Promise<Ports[]> {
	if (existsSync(file)) return JSON.parse(readFileSync(file, 'utf8')) as Ports[];
	const taken = new Set<number>();
	const free = async (): Promise<number> => {
		const port = (await tryPort(0))!;
		if (taken.has(port)) return free();
		taken.add(port);
		return port;
	};
	const ports: Ports[] = [];
	for (let n = 0; n < NODES; n++)
		ports.push({ sql: await free(), group: await free(), missed: await free(), copy: await free() });
	writeFileSync(file, JSON.stringify(ports));
	return ports;
}

/**
 * Which node begins the cluster again: the one that ended last, as it wrote down itself; after a power cut of all the one that
 * had come furthest (Galera documentation, "Restarting the cluster").
 */
function founderOf(homes: Home[]): number {
	const states = homes.map((home) => {
		const file = join(home.datadir, 'grastate.dat');
		return existsSync(file) ? readFileSync(file, 'utf8') : '';
	});
	const last = states.findIndex((text) => /safe_to_bootstrap: 1/.test(text));
	if (last >= 0 || states.every((text) => text === '')) return Math.max(0, last);
	const furthest = homes.map((home) =>
		Number(/Recovered position: \S+:(-?\d+)/.exec(askServer(home, ['--wsrep-recover']))?.[1] ?? -1)
	);
	const found = furthest.indexOf(Math.max(...furthest));
	const file = join(homes[found]!.datadir, 'grastate.dat');
	writeFileSync(file, states[found]!.replace('safe_to_bootstrap: 0', 'safe_to_bootstrap: 1'));
	return found;
}
