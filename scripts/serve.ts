import compression from 'compression';
import cors from 'cors';
import { constants } from 'node:zlib';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import type { Socket } from 'node:net';
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { closeDatabase } from '../src/lib/server/db/connection';
import { SAFE_HEADERS, httpsOnly } from '../src/lib/server/http/headers';
import { placeOf } from '../src/lib/server/identity/attempts';
import { isEmpty, loadDemo } from '../src/lib/server/demo/tanks';
import { Failure, fail, say } from './failure';
import { bringStoredUpToDate } from './stored';
import { isAlive, secret, tryPort } from './machine';
import { openOwnDatabase, type OwnDatabase } from './own-mariadb';

/** `tevrik demo` and `tevrik start`: the database, its schema, perhaps the demo, then the application until Ctrl-C. */

const HOST = '127.0.0.1';
const PORT = Number(process.env['PORT'] ?? 4173);
const root = resolve(fileURLToPath(import.meta.url), '../../..');
const folder = resolve(process.env['TEVRIK_DATA'] ?? join(root, '.data'));

// A database that people use goes on when its server crashes, and is taken over by the next.
delete process.env['TEVRIK_GUARDED'];

let own: OwnDatabase | undefined;
let ending = false;

async function main(mode: string): Promise<void> {
	if (!(PORT >= 1 && PORT <= 65535))
		throw new Failure(`PORT must be a number from 1 to 65535, not “${process.env['PORT']}”.`);
	if ((await tryPort(PORT, HOST)) === undefined)
		throw new Failure(
			`Port ${PORT} is taken. Stop what runs there, or choose another: PORT=${PORT + 1} ./tevrik ${mode}`
		);
	mkdirSync(folder, { recursive: true });
	if (!process.env['DATABASE_URL']) {
		refuseSecondStart();
		own = await openOwnDatabase(folder);
		if (own.found) say('a database left from an earlier start is still running; going on with it');
		writeFileSync(lock, String(process.pid));
		process.env['DATABASE_URL'] = own.url;
		process.env['TEVRIK_DISK'] = folder;
	}
	process.env['TEVRIK_SECRET'] ??= secret(join(folder, 'secret'));
	if (mode === 'demo') process.env['TEVRIK_DEMO'] = '1';
	await bringStoredUpToDate(async () => {
		if (mode !== 'demo' || !(await isEmpty())) return;
		say('loading the demo: months of a boathouse and its two tanks');
		await loadDemo();
	});
	process.env['ORIGIN'] ??= `http://${HOST}:${PORT}`;
	process.env['TEVRIK_NOTICES'] = join(root, 'build/app/client/notices.json');
	process.env['TEVRIK_WORKER'] = join(root, 'build/bin/worker.mjs');
	process.env['TEVRIK_PICTURES'] = join(root, 'build/bin/picture-process.mjs');
	// Bodies are counted by the application, which knows who asks.
	process.env['BODY_SIZE_LIMIT'] = 'Infinity';
	await serve();
	say(`ready at ${process.env['ORIGIN']} (Ctrl-C ends it)`);
	lookAfter();
}

/** A request's head has to come within this, and all of it within the next, ms: a sheet over a slow line takes minutes. */
const HEAD_WITHIN = 20_000;
const REQUEST_WITHIN = 300_000;
/** Connections at once, and from one place: without a proxy before it a place is an address, with one it is the proxy. */
const MOST_CONNECTIONS = 2000;
const MOST_OF_A_PLACE = 400;
/** A connection without a request is kept for so long, ms: longer than proxies and browsers keep theirs, so that they end it and no request meets one that is just being ended. */
const IDLE = 75_000;
/** Whoever is being answered when the server is to end has this long, ms. */
const GRACE = 10_000;

/** Pages that show a secret beside what somebody else may have written are sent as they are (BREACH: Gluck, Harris and Prado 2013). */
const WITH_SECRETS = /^\/(account|mail|reset|invite|s\/[^/]+\/(reminders|tank))\b/;
/** Quick rather than small, and each part as soon as it is written: a page stands before all of it has come. */
const compress = compression({
	level: 1,
	flush: constants.Z_SYNC_FLUSH,
	filter: (request, response) =>
		!WITH_SECRETS.test(request.url ?? '') && compression.filter(request, response)
});

/** Sites as a browser names them: without a path, whatever the operator wrote behind. */
function friends(): string[] {
	const named = (process.env['TEVRIK_CORS_ORIGINS'] ?? '').split(/[\s,]+/).filter(Boolean);
	const wrong = named.find((site) => !URL.canParse(site));
	if (wrong !== undefined)
		fail(new Failure(`TEVRIK_CORS_ORIGINS names sites as https://clock.example, not “${wrong}”.`));
	return named.map((site) => new URL(site).origin);
}

/**
 * Programs on other sites may ask the API where the operator names their sites, with a token and never with somebody’s cookie; by
 * default none may.
 */
const elsewhere = cors({
	origin: friends(),
	methods: ['GET', 'HEAD', 'PUT', 'POST', 'PATCH', 'DELETE'],
	allowedHeaders: ['authorization', 'content-type', 'idempotency-key', 'if-none-match'],
	exposedHeaders: ['etag', 'retry-after', 'ratelimit', 'ratelimit-policy', 'tevrik-now'],
	maxAge: 3600
});
/** A preflight says which method it is for; any other OPTIONS is the application's to answer. */
const isPreflight = ({ method, headers }: IncomingMessage) =>
	method === 'OPTIONS' && headers['access-control-request-method'] !== undefined;

/** Every answer, of pages, files and refusals alike, carries the headers; on SIGTERM and Ctrl-C what is under way is finished. */
async function serve(): Promise<void> {
	const { handler } = (await import('../app/handler.js' as string)) as {
		handler: (request: IncomingMessage, response: ServerResponse) => void;
	};
	const https = process.env['ORIGIN']!.startsWith('https:');
	const server = createServer((request, response) => {
		for (const [name, value] of Object.entries(SAFE_HEADERS)) response.setHeader(name, value);
		const left = new AbortController();
		response.once('close', () => left.abort());
		Object.assign(request, { left: left.signal });
		// Whoever asks next on this connection is to ask another process.
		if (ending) response.setHeader('connection', 'close');
		if (https) response.setHeader('strict-transport-security', httpsOnly());
		compress(request as never, response as never, () => {
			const asked = () => handler(request, response);
			const isOfApi = request.url?.startsWith('/api/') && process.env['TEVRIK_CORS_ORIGINS'];
			if (isOfApi && (request.method !== 'OPTIONS' || isPreflight(request)))
				elsewhere(request, response, asked);
			else asked();
		});
	});
	server.headersTimeout = HEAD_WITHIN;
	server.requestTimeout = REQUEST_WITHIN;
	server.keepAliveTimeout = IDLE;
	server.maxConnections = MOST_CONNECTIONS;
	if (!process.env['ADDRESS_HEADER']) server.on('connection', fewOfEach());
	const stop = () => {
		if (ending) return;
		ending = true;
		server.close(() => {
			// The bundled application closes its own pools on this.
			process.emit('sveltekit:shutdown' as never);
			// A note that somebody looked may still be on its way, and have opened the database anew: nobody waits for it.
			void end().finally(() => process.exit());
		});
		server.closeIdleConnections();
		setTimeout(() => server.closeAllConnections(), GRACE).unref();
	};
	process.on('SIGTERM', stop);
	process.on('SIGINT', stop);
	// Whoever started it for a test or a measurement has gone, in whatever way.
	if (process.env['TEVRIK_ENDS_WITH_PARENT']) {
		process.stdin.resume().on('end', stop).on('error', stop);
		// It listens, and is no reason to go on.
		(process.stdin as unknown as Socket).unref();
	}
	await new Promise<void>((listening, failed) => {
		server.once('error', failed);
		server.listen(PORT, HOST, listening);
	});
}

/** Closes connections of a place that has too many. */
function fewOfEach(): (socket: Socket) => void {
	const open = new Map<string, number>();
	return (socket) => {
		const place = placeOf(socket.remoteAddress ?? '');
		const others = open.get(place) ?? 0;
		if (others >= MOST_OF_A_PLACE) return void socket.destroy();
		open.set(place, others + 1);
		socket.once('close', () => {
			const left = open.get(place)! - 1;
			if (left) open.set(place, left);
			else open.delete(place);
		});
	};
}

/** How often the database is looked after, ms. */
const LOOK = 500;

/** A database of our own that dies is started again: what was acknowledged is on its disk. */
function lookAfter(): void {
	let opening = false;
	setInterval(() => {
		if (!own || opening || ending || isAlive(own.pid)) return;
		opening = true;
		say('the database has died; starting it again');
		openOwnDatabase(folder)
			.then(
				(again) => (own = again),
				(error: unknown) => say(`it did not start: ${(error as Error).message}`)
			)
			.finally(() => (opening = false));
	}, LOOK).unref();
}
const lock = join(folder, 'running');

/** Two servers on one data folder would fight over it. */
function refuseSecondStart(): void {
	if (!existsSync(lock)) return;
	const pid = Number(readFileSync(lock, 'utf8'));
	if (pid !== process.pid && isTevrik(pid))
		throw new Failure(
			`Tevrik already runs on this data (process ${pid}). Use it, stop it, or set TEVRIK_DATA to another folder.`
		);
}

function isTevrik(pid: number): boolean {
	try {
		return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('serve.mjs');
	} catch {
		return false;
	}
}

async function end(): Promise<void> {
	ending = true;
	await closeDatabase();
	if (own) {
		say('stopping the database');
		await own.stop();
		rmSync(lock, { force: true });
	}
	say('ended');
}

try {
	await main(process.argv[2] ?? 'start');
} catch (error) {
	await closeDatabase().catch(() => undefined);
	await own?.stop();
	fail(error);
}
