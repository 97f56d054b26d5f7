import { createConnection } from 'mysql2/promise';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { openCluster, type Cluster } from '../../scripts/cluster';
import { tryPort } from '../../scripts/machine';
import { apart, type Apart } from '../support/apart';
import { household, load, tankOf, until } from '../support/load';
import { nextVersion } from '../support/next-version';
import { person, type Person } from '../support/person';

/** Keepers who write at once. */
const KEEPERS = 4;
/** Acknowledged between one blow and the next, at least. */
const BETWEEN = 60;

let cluster: Cluster;
let keepers: Person[];
let said = '';
let network: Apart | undefined;
const folder = mkdtempSync(join(tmpdir(), 'tevrik-cluster-'));
// The databases run under another account where this one is root.
chmodSync(folder, 0o755);

beforeAll(async () => {
	network = await apart();
	cluster = await openCluster({
		folder,
		places: network && [network.far, network.near],
		from: network?.near.address,
		port: (await tryPort(0))!,
		mode: 'start',
		environment: { TEVRIK_LOG: 'warn' },
		hear: (text) => (said += text)
	});
	keepers = await household(cluster.origin, KEEPERS);
}, 180_000);
afterAll(async () => {
	await cluster?.stop();
	network?.end();
	rmSync(folder, { recursive: true, force: true });
}, 60_000);

const account = (n: number) => ({ email: `keeper${n}@boathouse.example`, password: 'a heron at the sluice' });

it('lets everybody in who signs in with the right password at the same moment, on whichever machine', async () => {
	// The balancer hands them out in turns.
	const somebody = Array.from({ length: 4 * KEEPERS }, (_, n) => n);
	const answers = await Promise.all(
		somebody.map((n) => person(cluster.origin).form('/signin?/in', account(n % KEEPERS)))
	);
	expect(answers.map((a) => a.status)).toEqual(somebody.map(() => 303));
});

/**
 * Keepers write and sign in while something happens, `happen`, which may wait for more to be acknowledged. Then: what was acknowledged stands
 * on every node, and no answer was wrong.
 */
async function underLoad(what: string, happen: (more: (after: string) => Promise<void>) => Promise<void>) {
	const tanks = await Promise.all(
		keepers.map(async (p, n) => ({ person: p, tank: await tankOf(p, `${what} ${n}`) }))
	);
	const { tally, stop } = load(tanks, {
		signIn: (n) => person(cluster.origin).form('/signin?/in', account(n % KEEPERS))
	});
	const acknowledged = () =>
		tally.readings.length + [...tally.steps.values()].reduce((sum, steps) => sum + steps.length, 0);
	const more = async (after: string) => {
		const wanted = acknowledged() + BETWEEN;
		await until(`more writes after ${after}`, () => acknowledged() >= wanted);
	};
	try {
		await more('the start');
		await more('the start');
		// While all live, writes that meet on two machines are put right before anybody hears of it.
		expect([acknowledged(), tally.later]).toEqual([expect.any(Number), 0]);
		await happen(more);
	} finally {
		await stop();
	}
	expect([tally.wrong, tally.unread]).toEqual([[], []]);
	const steps = [...tally.steps.values()].flat();
	for (const node of cluster.nodes) await standsOn(node.url, tally.readings, steps);
	expect(said).not.toMatch(/"msg":"unexpected"/);
	console.log(
		`measured: cluster: ${what}: ${acknowledged()} writes and ${tally.signIns} sign-ins acknowledged, ${tally.later} sent again, none lost`
	);
	return tally;
}

async function standsOn(url: string, readings: string[], steps: string[]): Promise<void> {
	const db = await createConnection(url);
	try {
		await db.query('set session wsrep_sync_wait = 1');
		expect(await sizeSeenBy(url)).toBe('3');
		const kept = async (table: string, ids: string[]) => {
			const [rows] = await db.query(`select id from ${table} where id in (?)`, [ids]);
			return (rows as { id: string }[]).length;
		};
		expect(await kept('reading', readings)).toBe(readings.length);
		expect(await kept('run_event', steps)).toBe(steps.length);
		// Each session's steps stand one after another, none twice and none left out.
		const [gaps] = await db.query(
			'select run_id from run_event group by run_id having max(seq) <> count(*) or min(seq) <> 1'
		);
		expect(gaps).toEqual([]);
		const [torn] = await db.query(
			`select r.id from reading r left join revision v on v.reading_id = r.id and v.revision = r.revision
			 where v.reading_id is null`
		);
		expect(torn).toEqual([]);
	} finally {
		await db.end();
	}
}

it(
	'a database machine, then a process of the application die under load and come back: no acknowledged write is lost, nothing answers 500, what was written is read',
	{ timeout: 300_000 },
	async () => {
		const tally = await underLoad('four deaths', async (more) => {
			for (const part of [cluster.nodes[0]!, cluster.servers[0]!, cluster.nodes[1]!, cluster.servers[1]!]) {
				part.kill();
				await more(`${part.name} died`);
				await part.start();
				await more(`${part.name} came back`);
			}
		});
		expect(tally.signIns).toBeGreaterThan(10);
	}
);

it(
	'a database machine that the network cuts off takes no writes, is left by whoever asked it, and comes back by itself',
	{ timeout: 300_000 },
	async ({ skip }) => {
		// Only root may make a network. The bench and this machine run as root.
		if (!network) return skip('no network of its own may be made here');
		const { cable } = network;
		await underLoad('a cable pulled', async (more) => {
			cable(false);
			await more('the cable was pulled');
			await more('the cable was pulled');
			cable(true);
			const [node] = cluster.nodes;
			await until('the node is back', () =>
				sizeSeenBy(node!.url).then(
					(size) => size === '3',
					() => false
				)
			);
			await more('the node came back');
		});
	}
);

async function sizeSeenBy(url: string): Promise<string> {
	const db = await createConnection({ uri: url, connectTimeout: 1000 });
	try {
		const [[size]] = (await db.query("show status like 'wsrep_cluster_size'")) as never as [
			[{ Value: string }]
		];
		return size.Value;
	} finally {
		db.destroy();
	}
}

it('a process that stands still is left within moments: whoever asked it is answered by another while it still stands', async () => {
	const [frozen] = cluster.servers;
	const ask = () => Promise.all(Array.from({ length: 8 }, (_, n) => keepers[n % KEEPERS]!.ask('/tanks')));
	expect((await ask()).map((a) => a.status)).toEqual(Array(8).fill(200));
	process.kill(frozen!.pid, 'SIGSTOP');
	try {
		expect((await ask()).map((a) => a.status)).toEqual(Array(8).fill(200));
		expect((await ask()).map((a) => a.status)).toEqual(Array(8).fill(200));
	} finally {
		process.kill(frozen!.pid, 'SIGCONT');
	}
}, 60_000);

it(
	'the next version takes over one process at a time, with a change of the tables in the middle: nobody’s write is lost',
	{ timeout: 300_000 },
	async () => {
		const { build } = nextVersion(join(folder, 'next'));
		await underLoad('a rolling restart', async (more) => {
			for (const server of cluster.servers) {
				await server.end();
				await server.start(build);
				await more(`${server.name} is of the next version`);
			}
		});
		const db = await createConnection(cluster.nodes[2]!.url);
		const [[changed]] = (await db.query('select max(later) as most from reading')) as never as [
			[{ most: number }]
		];
		await db.end();
		expect(changed.most).toBe(10);
	}
);
