import { spawn, type ChildProcess } from 'node:child_process';
import { mkdirSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { Failure } from './failure';
import { guard } from './guard';
import { openGalera, type Node, type Place } from './galera';
import { find, isAlive, pause, secret, tryPort } from './machine';

/** So many processes answer beside each other. */
const SERVERS = 2;
/** Starting, the demo included, may take this long, ms. */
const PATIENCE = 180_000;

/** One process of the application. */
export interface Server {
	name: string;
	origin: string;
	pid: number;
	kill(): void;
	/** Finishes what it was asked and ends. */
	end(): Promise<void>;
	/** From this build or another. */
	start(build?: string): Promise<void>;
}
export interface Cluster {
	/** Where the balancer answers. */
	origin: string;
	nodes: Node[];
	servers: Server[];
	stop(): Promise<void>;
}

/**
 * Tevrik on several machines, all on the loopback: three database nodes that keep the same, several processes of the application
 * that know them all, each beginning with another, and a balancer before them.
 */
export async function openCluster({
	folder,
	port,
	mode = 'demo',
	environment = {},
	places,
	from,
	hear = (text) => void process.stderr.write(text)
}: {
	folder: string;
	port: number;
	mode?: 'demo' | 'start';
	environment?: Record<string, string>;
	/** Where database nodes run, and whence they are asked; see openGalera. */
	places?: Place[] | undefined;
	from?: string | undefined;
	/** Gets what the processes write. */
	hear?: (text: string) => void;
}): Promise<Cluster> {
	const home = resolve(folder);
	mkdirSync(home, { recursive: true, mode: 0o755 });
	const origin = `http://127.0.0.1:${port}`;
	// Made before several might.
	secret(join(home, 'secret'));
	const galera = await openGalera(home, places, from);
	const children = new Set<ChildProcess>();
	const run = (program: string, args: string[], env: Record<string, string>): ChildProcess => {
		// A group of its own, so that Ctrl-C does not reach all at once.
		const child = spawn(program, args, {
			env: { ...process.env, ...env },
			stdio: ['ignore', 'pipe', 'pipe'],
			detached: true
		});
		children.add(child);
		guard(child.pid, program.endsWith('haproxy') ? 'haproxy' : 'serve.mjs');
		child.once('exit', () => children.delete(child));
		for (const stream of [child.stdout, child.stderr])
			stream!.on('data', (text: Buffer) => hear(String(text)));
		return child;
	};
	const servers: Server[] = [];
	for (let n = 0; n < SERVERS; n++) {
		const own = (await tryPort(0))!;
		servers.push({
			name: `server-${n + 1}`,
			origin: `http://127.0.0.1:${own}`,
			pid: 0,
			kill() {
				process.kill(this.pid, 'SIGKILL');
			},
			async end() {
				process.kill(this.pid, 'SIGTERM');
				while (isAlive(this.pid)) await pause(20);
			},
			async start(build = 'build') {
				const child = run(process.execPath, [resolve(build, 'bin/serve.mjs'), mode], {
					...environment,
					PORT: String(own),
					ORIGIN: origin,
					TEVRIK_DATA: home,
					DATABASE_URL: galera.url(n),
					// The balancer says who asks, and nobody else can reach the process.
					ADDRESS_HEADER: 'x-forwarded-for',
					XFF_DEPTH: '1'
				});
				this.pid = child.pid!;
				await saying(child, 'ready at');
			}
		});
	}
	const end = async () => {
		await Promise.all([...children].map(ending));
		await galera.stop();
	};
	try {
		await Promise.all(servers.map((server) => server.start()));
		const file = join(home, 'haproxy.cfg');
		writeFileSync(file, balancing(port, servers));
		const balancer = run(find('haproxy'), ['-f', file, '-db'], {});
		await answering(origin, balancer);
	} catch (failure) {
		await end();
		throw failure;
	}
	return { origin, nodes: galera.nodes, servers, stop: end };
}

/**
 * The balancer asks each process twice a second whether it is ready, and notices one that stands still within three seconds; what
 * waits there is taken from it then. What did not reach one goes to another; what may have
 * been done is sent again only where doing it twice is doing it once (all but POST).
 */
const balancing = (port: number, servers: Server[]): string => `global
	maxconn 2000
defaults
	mode http
	timeout connect 2s
	timeout client 60s
	timeout server 60s
	timeout http-request 20s
	timeout check 1s
	option redispatch
	retries 3
	retry-on conn-failure empty-response
frontend door
	bind 127.0.0.1:${port}
	http-request disable-l7-retry if METH_POST
	http-request set-header X-Forwarded-For %[src]
	default_backend tevrik
backend tevrik
	balance roundrobin
	option httpchk GET /readyz
	default-server check inter 500ms fastinter 200ms fall 2 rise 1 on-marked-down shutdown-sessions
${servers.map(({ name, origin }) => `\tserver ${name} ${new URL(origin).host}`).join('\n')}
`;

async function answering(origin: string, balancer: ChildProcess): Promise<void> {
	const end = Date.now() + 20_000;
	while (Date.now() < end) {
		if (balancer.exitCode !== null)
			throw new Failure(`haproxy ended (${balancer.exitCode}); its words stand above`);
		const answer = await fetch(`${origin}/readyz`).catch(() => undefined);
		if (answer?.ok) return;
		await pause(50);
	}
	throw new Failure('The balancer did not answer within 20 s.');
}

/** Waits until a process has written some words; an error with all it wrote where it ends first. */
function saying(child: ChildProcess, words: string): Promise<void> {
	return new Promise((done, failed) => {
		let said = '';
		const late = setTimeout(() => failed(new Failure(`a server did not start in time: ${said}`)), PATIENCE);
		const listen = (text: Buffer) => {
			said += String(text);
			if (!said.includes(words)) return;
			clearTimeout(late);
			done();
		};
		child.stdout!.on('data', listen);
		child.stderr!.on('data', listen);
		child.once('exit', (code) => {
			clearTimeout(late);
			failed(new Failure(`a server ended (${code}): ${said}`));
		});
	});
}

const ending = (child: ChildProcess): Promise<void> =>
	new Promise((done) => {
		if (child.exitCode !== null || child.signalCode !== null) return done();
		child.once('exit', () => done());
		child.kill('SIGTERM');
	});
