import autocannon from 'autocannon';
import mysql from 'mysql2/promise';
import type { Person } from '../../tests/support/person';
import type { FairApplication } from './fair-application';
import type { Row } from './row';

/** Seconds for each address, and connections at once. */
const DURATION = 4;
const CONNECTIONS = 8;
/** Of what is fair a page is served at least so often; statements a page; raw bytes of its own data. */
const PAGES: { name: string; path: string; goal: number }[] = [
	{ name: 'rack', path: 'rack', goal: 1 },
	{ name: 'readings', path: 'readings', goal: 0.7 },
	{ name: 'trends', path: 'trends?of=alkalinity', goal: 0.7 },
	{ name: 'bench', path: 'bench', goal: 0.6 },
	{ name: 'all tanks', path: '/tanks', goal: 2 },
	{ name: 'sign-in', path: '/signin', goal: 3 }
];
const MOST_STATEMENTS = 10;
const MOST_DATA = 40_000;

/** Addresses that no page was made for yet: what is asked for with them is made anew. */
let asked = 0;
const anew = (url: string) => (request: object) => {
	const { pathname, search } = new URL(url);
	return { ...request, path: `${pathname}${search}${search ? '&' : '?'}n=${asked++}` };
};

/** Answers a second; `fresh`: each to another address. */
async function rate(url: string, cookie: string, fresh = false): Promise<number> {
	const result = await autocannon({
		url,
		...(fresh ? { requests: [{ setupRequest: anew(url) }] } : {}),
		connections: CONNECTIONS,
		duration: DURATION,
		headers: { ...(cookie ? { cookie } : {}), 'accept-encoding': 'identity' }
	});
	if (result.non2xx || result.errors) throw new Error(`${url} answered ${result.non2xx} times with an error`);
	return result.requests.average;
}

/** What a page weighs: its elements and bytes, the bytes of the data that go with it, and its statements. */
async function weigh(url: string, cookie: string, asked: () => Promise<number>) {
	const get = () => fetch(url, { headers: cookie ? { cookie } : {} });
	await (await get()).text();
	const before = await asked();
	const html = await (await get()).text();
	const statements = (await asked()) - before;
	const data = /\bdata: (\[[\s\S]*\]),\s*form: /.exec(html)?.[1] ?? '';
	return {
		statements,
		bytes: Buffer.byteLength(html),
		elements: html.match(/<[a-z]/g)!.length,
		data: Buffer.byteLength(data)
	};
}

/** Pages a second beside the fair page of the same elements and bytes, neither compressed, taken in turns; and readings by the API beside the same rows. */
export async function requestRates(
	origin: string,
	databaseUrl: string,
	keeper: Person,
	fair: FairApplication
): Promise<Row[]> {
	const db = await mysql.createConnection(databaseUrl);
	const statementsSoFar = async () => {
		const [[found]] = (await db.query("show global status like 'Questions'")) as unknown as [
			{ Value: string }[]
		];
		// The asking itself is one.
		return Number(found!.Value) - 1;
	};
	const [[session]] = (await db.query(
		'select token from session order by created_at desc limit 1'
	)) as unknown as [{ token: string }[]];
	const { systems } = await keeper.json<{ systems: { id: string }[] }>('/api/v1/systems');
	const system = systems[0]!.id;
	const rows: Row[] = [];
	for (const { name, path, goal } of PAGES) {
		const url = path.startsWith('/') ? origin + path : `${origin}/s/${system}/${path}`;
		const cookie = name === 'sign-in' ? '' : keeper.cookie;
		// What a count in between adds is taken off again.
		const { statements, bytes, elements, data } = await weigh(url, cookie, statementsSoFar);
		const other = fair.page({ elements, bytes, token: session!.token, system });
		await rate(url, cookie);
		const [ours, made, theirs] = [
			await rate(url, cookie),
			await rate(url, cookie, true),
			await rate(other, '')
		];
		rows.push({
			what: `${name} pages a second`,
			measured: ours.toFixed(0),
			against: `${(ours / theirs).toFixed(2)} of fair (${theirs.toFixed(0)}; goal ${goal}), ${(made / theirs).toFixed(2)} where each is made anew; ${statements - 1} statements (goal ${MOST_STATEMENTS}), ${elements} elements, ${(bytes / 1000).toFixed(0)} kB, of them data ${(data / 1000).toFixed(0)} kB (goal ${MOST_DATA / 1000})`
		});
	}
	rows.push(await apiRate(origin, db, keeper, system));
	await db.end();
	return rows;
}

/** `GET …/readings` beside the same rows by `mysql2` and `JSON.stringify`. */
async function apiRate(origin: string, db: mysql.Connection, keeper: Person, system: string): Promise<Row> {
	const url = `${origin}/api/v1/systems/${system}/readings`;
	const { readings } = (await keeper.json(url.slice(origin.length))) as { readings: unknown[] };
	const statement = `select r.id, r.parameter, r.taken_at, v.* from reading r join revision v on v.reading_id = r.id and v.revision = r.revision
		join method_version m on m.id = v.method_version_id where r.system_id = ? order by r.taken_at desc, r.id desc limit ${readings.length}`;
	const until = performance.now() + DURATION * 1000;
	let plain = 0;
	while (performance.now() < until) {
		const work = Array.from({ length: CONNECTIONS }, async () =>
			JSON.stringify((await db.execute(statement, [system]))[0])
		);
		await Promise.all(work);
		plain += CONNECTIONS;
	}
	const ours = await rate(url, keeper.cookie);
	return {
		what: `GET …/readings a second (${readings.length} of them)`,
		measured: ours.toFixed(0),
		against: `${(ours / (plain / DURATION)).toFixed(2)} of the same rows by mysql2 and JSON.stringify (goal 0.6)`
	};
}
