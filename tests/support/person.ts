import { createConnection, type Connection } from 'mysql2/promise';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';

/** Somebody with or without a session, who asks without a browser: redirects are answers, cookies are kept. */
export function person(origin: string, cookie = '', place?: string, saysItComesFrom = origin) {
	const jar = new Map(
		cookie.split('; ').flatMap((c) => (c ? [c.split(/=(.*)/s, 2) as [string, string]] : []))
	);
	async function ask(path: string, init: RequestInit = {}): Promise<Response> {
		const headers = new Headers(init.headers);
		if (jar.size) headers.set('cookie', [...jar].map(([k, v]) => `${k}=${v}`).join('; '));
		if (init.method && init.method !== 'GET') headers.set('origin', saysItComesFrom);
		if (place) headers.set('x-forwarded-for', place);
		const response = await fetch(path.startsWith('http') ? path : origin + path, {
			...init,
			headers,
			redirect: 'manual'
		});
		for (const c of response.headers.getSetCookie()) {
			const [name, value] = c.split(';')[0]!.split(/=(.*)/s) as [string, string];
			if (value && !/max-age=0/i.test(c)) jar.set(name, value);
			else jar.delete(name);
		}
		return response;
	}
	return {
		ask,
		/** Sends a page's form. */
		form: (path: string, fields: Record<string, string>) =>
			ask(path, { method: 'POST', headers: { accept: 'text/html' }, body: new URLSearchParams(fields) }),
		/** Sends JSON. */
		send: (method: string, path: string, body?: unknown, headers: Record<string, string> = {}) =>
			ask(path, {
				method,
				headers: { ...(body === undefined ? {} : { 'content-type': 'application/json' }), ...headers },
				...(body === undefined ? {} : { body: JSON.stringify(body) })
			}),
		json: async <T>(path: string): Promise<T> => (await ask(path)).json() as Promise<T>,
		get cookie() {
			return [...jar].map(([k, v]) => `${k}=${v}`).join('; ');
		}
	};
}
export type Person = ReturnType<typeof person>;

/** A new account on a server that lets people in: openly, or by an invitation. */
export async function signedUp(
	origin: string,
	name: string,
	{
		invitation,
		saysItComesFrom = origin,
		place
	}: { invitation?: string; saysItComesFrom?: string; place?: string } = {}
): Promise<Person> {
	const somebody = person(origin, '', place, saysItComesFrom);
	const query = invitation ? `?invitation=${invitation}` : '';
	const response = await somebody.form(`/signup${query}`, {
		name,
		email: `${name.toLowerCase()}@boathouse.example`,
		password: 'a heron at the sluice'
	});
	if (response.status !== 303) throw new Error(`${name} was not let in: ${await response.text()}`);
	return somebody;
}

/** The secret that a page shows once. */
export const shownOnce = (html: string, id: 'link' | 'token'): string =>
	new RegExp(`data-testid="${id}"[^>]*>([^<]+)<`).exec(html)![1]!.trim();

/** The database of an application that was started on a folder of its own. */
export function databaseOf(folder: string): Promise<Connection> {
	const read = (name: string) => readFileSync(join(folder, name), 'utf8').trim();
	return createConnection({
		host: '127.0.0.1',
		port: Number(read('database-port')),
		user: 'tevrik',
		password: read('database-password'),
		database: 'tevrik'
	});
}

/** What is counted while people look: last seen, last used, tries. */
const RESTLESS = ['session', 'attempt', 'api_token'];

/** A sum over every row of every table that holds what people keep. */
export async function sumOf(db: Connection): Promise<Record<string, unknown>> {
	const [tables] = await db.query(
		'select table_name as t from information_schema.tables where table_schema = database()'
	);
	const names = (tables as { t: string }[]).map(({ t }) => t).filter((t) => !RESTLESS.includes(t));
	const [sums] = await db.query(`checksum table ${names.map((n) => `\`${n}\``).join(', ')}`);
	return Object.fromEntries(
		(sums as { Table: string; Checksum: unknown }[]).map((s) => [s.Table, s.Checksum])
	);
}
