import { error } from '@sveltejs/kit';
import { and, asc, eq, gt, inArray, or } from 'drizzle-orm';
import { v5 as uuidV5 } from 'uuid';
import type { Book } from '../../core/formats';
import { checkMethod, expressedIn, type Method } from '../../core/methods';
import { marksOf } from '../../core/bench';
import { badAll, good, type Outcome, type Problem } from '../../core/problems';
import { parameterOf } from '../../core/quantities';
import { mayUse, mayWrite, type Asker } from './asker';
import { now } from './clock';
import { DUPLICATE, database, errnoOf, type Connection } from './db/connection';
import { writeRows } from './db/rows';
import {
	band,
	event,
	membership,
	method,
	methodVersion,
	reading,
	revision,
	run,
	runEvent,
	sample,
	source,
	system,
	user
} from './db/schema';
import { methodVersionFor, same } from './method-store';
import { columnsOf } from './reading-store';
import { conductIn } from './run-store';
import { isTimeZone } from './system-store';

/** So many readings are fetched and written at once. */
const AT_ONCE = 1000;

/** Everything of a tank as `tevrik.book/1`, piece by piece, all from one moment. */
export async function* bookFile(asker: Asker, systemId: string): AsyncGenerator<string> {
	await mayUse(database(), asker, systemId, 'read');
	yield* pieces(
		(use) =>
			database().transaction((db) => use(db), { isolationLevel: 'repeatable read', accessMode: 'read only' }),
		(db) => written(db, systemId)
	);
}

/** Hands out what a generator makes inside a transaction, while the transaction is open. */
async function* pieces(
	inside: (use: (db: Connection) => Promise<void>) => Promise<void>,
	make: (db: Connection) => AsyncGenerator<string>
): AsyncGenerator<string> {
	const ready: string[] = [];
	let wake: (() => void) | undefined;
	let more: (() => void) | undefined;
	let over = false;
	const work = inside(async (db) => {
		for await (const piece of make(db)) {
			ready.push(piece);
			wake?.();
			// No more than one piece ahead of whoever reads.
			await new Promise<void>((done) => (more = done));
			if (over) return;
		}
	}).finally(() => {
		over = true;
		wake?.();
	});
	work.catch(() => undefined);
	try {
		for (;;) {
			if (!ready.length && !over) await new Promise<void>((done) => (wake = done));
			while (ready.length) yield ready.shift()!;
			if (over) break;
			more?.();
		}
		await work;
	} finally {
		over = true;
		more?.();
	}
}

async function* written(db: Connection, systemId: string): AsyncGenerator<string> {
	const [tank] = await db.select().from(system).where(eq(system.id, systemId));
	const bands = await db.select().from(band).where(eq(band.systemId, systemId)).orderBy(asc(band.parameter));
	const sources = await db.select().from(source).where(eq(source.systemId, systemId)).orderBy(asc(source.id));
	const names = new Map(
		(await db.select({ id: user.id, name: user.name }).from(user)).map((u) => [u.id, u.name])
	);
	const { sizes, createdAt, ...about } = tank!;
	const head = {
		format: 'tevrik.book/1',
		writtenAt: now().toISOString(),
		system: { ...about, ...(sizes ? { sizes } : {}), createdAt: createdAt.toISOString() },
		bands: Object.fromEntries(bands.map(({ parameter, lower, upper }) => [parameter, { lower, upper }])),
		sources: sources.map(({ id, kind, name }) => ({ id, kind, name }))
	};
	yield `${JSON.stringify(head).slice(0, -1)},"readings":[`;
	const versions = new Set<string>();
	let last: string | undefined;
	for (;;) {
		const found = await db
			.select()
			.from(reading)
			.where(and(eq(reading.systemId, systemId), last === undefined ? undefined : gt(reading.id, last)))
			.orderBy(asc(reading.id))
			.limit(AT_ONCE);
		if (!found.length) break;
		const states = await db
			.select()
			.from(revision)
			.where(
				inArray(
					revision.readingId,
					found.map((r) => r.id)
				)
			)
			.orderBy(asc(revision.readingId), asc(revision.revision));
		const byReading = grouped(states);
		const lines = found.map((r) => {
			const revisions = (byReading.get(r.id) ?? []).map((s) => {
				versions.add(s.methodVersionId);
				return {
					at: s.at.toISOString(),
					by: s.attributedTo ?? names.get(s.byUserId)!,
					methodVersionId: s.methodVersionId,
					...(s.takenAt ? { takenAt: s.takenAt.toISOString() } : {}),
					raw: s.raw,
					...(s.sampleSize === null ? {} : { sampleSize: s.sampleSize }),
					...(s.takenAwayId === null ? {} : { takenAwayId: s.takenAwayId }),
					result: s.result,
					calculation: s.calculation,
					voided: s.voided,
					...(s.reason === null ? {} : { reason: s.reason })
				};
			});
			return JSON.stringify({
				id: r.id,
				sampleId: r.sampleId,
				sourceId: r.sourceId,
				takenAt: r.takenAt.toISOString(),
				...(r.runId === null ? {} : { runId: r.runId }),
				revisions
			});
		});
		yield (last === undefined ? '' : ',') + lines.join(',');
		last = found.at(-1)!.id;
	}
	const evenings = await db.select().from(run).where(eq(run.systemId, systemId)).orderBy(asc(run.id));
	const happened = evenings.length
		? await db
				.select()
				.from(runEvent)
				.where(
					inArray(
						runEvent.runId,
						evenings.map((e) => e.id)
					)
				)
				.orderBy(asc(runEvent.runId), asc(runEvent.seq))
		: [];
	const runs = evenings.map((e) => ({
		id: e.id,
		sourceId: e.sourceId,
		startedAt: e.startedAt.toISOString(),
		...(e.finishedAt ? { finishedAt: e.finishedAt.toISOString() } : {}),
		events: happened.filter((h) => h.runId === e.id).map((h) => h.body)
	}));
	for (const { events } of runs)
		for (const e of events)
			if (e.kind === 'begin') e.tests.forEach((t) => versions.add(t.methodVersionId));
			else if (e.kind === 'add') versions.add(e.added.methodVersionId);
	const done = await db
		.select()
		.from(event)
		.where(eq(event.systemId, systemId))
		.orderBy(asc(event.at), asc(event.id));
	const events = done.map((e) => ({
		id: e.id,
		at: e.at.toISOString(),
		event: e.body,
		by: e.attributedTo ?? names.get(e.byUserId)!,
		createdAt: e.createdAt.toISOString(),
		voided: e.voided,
		...(e.reason === null ? {} : { reason: e.reason })
	}));
	const methods = versions.size
		? await db
				.select({
					versionId: methodVersion.id,
					methodId: methodVersion.methodId,
					version: methodVersion.version,
					profile: methodVersion.profile
				})
				.from(methodVersion)
				.where(inArray(methodVersion.id, [...versions]))
				.orderBy(asc(methodVersion.methodId), asc(methodVersion.version))
		: [];
	yield `],${JSON.stringify({ runs, events, methods }).slice(1)}`;
}

function grouped<T extends { readingId: string }>(rows: T[]): Map<string, T[]> {
	const groups = new Map<string, T[]>();
	for (const row of rows) {
		const group = groups.get(row.readingId);
		if (group) group.push(row);
		else groups.set(row.readingId, [row]);
	}
	return groups;
}

const UUID = /"([0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12})"/g;

/**
 * Takes a book in as a tank of the asker's under an id of the client's; sending it again changes nothing. Everything in it
 * gets an id of its own here, unless the tank keeps the id it has in the file; methods that are here already are used.
 * Problems: what the file says of itself does not fit together.
 */
export async function takeBook(asker: Asker, id: string, sent: Book): Promise<Outcome<{ id: string }>> {
	mayWrite(asker);
	const db = database();
	const [there] = await db.select({ id: system.id }).from(system).where(eq(system.id, id));
	if (there) {
		await mayUse(db, asker, id, 'own');
		return good({ id });
	}
	const flaws = flawsOf(sent);
	if (flaws.length) return badAll(flaws);
	const keep = sent.system.id === id;
	const methods = await methodsHere(db, asker, sent, id, keep);
	const book = JSON.parse(
		JSON.stringify(sent).replace(UUID, (quoted, old: string) => {
			if (old === sent.system.id) return `"${id}"`;
			const here = methods.ids.get(old) ?? (keep ? undefined : uuidV5(old, id));
			return here === undefined ? quoted : `"${here}"`;
		})
	) as Book;
	try {
		await db.transaction((tx) => writeBook(tx, asker, book, methods.made));
	} catch (failure) {
		if (errnoOf(failure) !== DUPLICATE) throw failure;
		error(409, 'Part of this book is kept here already. Take it in as a copy, under another id.');
	}
	return good({ id });
}

/** What no schema can say: that a book's parts fit together. */
function flawsOf(book: Book): Problem[] {
	const flaws: Problem[] = [];
	const flaw = (path: string, message: string) => void (flaws.length < 20 && flaws.push({ path, message }));
	if (!isTimeZone(book.system.timeZone)) flaw('/system/timeZone', 'is not a time zone');
	if (book.sources.filter((s) => s.kind === 'tank').length !== 1)
		flaw('/sources', 'must hold the tank itself, once');
	const sources = new Set(book.sources.map((s) => s.id));
	const profiles = new Map(book.methods.map((m) => [m.versionId, m.profile]));
	for (const [i, { profile }] of book.methods.entries())
		for (const f of checkMethod(profile)) flaw(`/methods/${i}/profile${f.path}`, f.message);
	const runs = new Set(book.runs.map((r) => r.id));
	const readings = new Set<string>();
	const samples = new Map<string, string>();
	for (const [i, r] of book.readings.entries()) {
		const place = `/readings/${i}`;
		if (readings.has(r.id)) flaw(`${place}/id`, 'stands in the file twice');
		readings.add(r.id);
		if (!sources.has(r.sourceId)) flaw(`${place}/sourceId`, 'is not among the sources');
		if ((samples.get(r.sampleId) ?? r.sourceId) !== r.sourceId)
			flaw(`${place}/sampleId`, 'is of two waters at once');
		samples.set(r.sampleId, r.sourceId);
		if (r.runId !== undefined && !runs.has(r.runId)) flaw(`${place}/runId`, 'is not among the evenings');
		const measured = r.revisions.map((s) => profiles.get(s.methodVersionId)?.parameter);
		if (measured.includes(undefined)) flaw(`${place}/revisions`, 'name a method that is not in the file');
		else if (new Set(measured).size > 1) flaw(`${place}/revisions`, 'are of more than one parameter');
		for (const [j, s] of r.revisions.entries()) {
			const profile = profiles.get(s.methodVersionId);
			const own = profile && parameterOf(profile.parameter);
			if (own && !canExpress(s.result, own.id, own.unit))
				flaw(`${place}/revisions/${j}/result/unit`, `is no unit of ${own.id}`);
		}
	}
	for (const [i, r] of book.runs.entries()) {
		if (!sources.has(r.sourceId)) flaw(`/runs/${i}/sourceId`, 'is not among the sources');
		for (const e of r.events)
			for (const t of e.kind === 'begin' ? e.tests : e.kind === 'add' ? [e.added] : [])
				if (!profiles.has(t.methodVersionId))
					flaw(`/runs/${i}/events`, 'name a method that is not in the file');
	}
	return flaws;
}
const canExpress = (result: Parameters<typeof expressedIn>[0], parameter: string, unit: string): boolean =>
	expressedIn(result, parameter, unit).unit === unit;

interface MadeMethod {
	methodId: string;
	versionId: string;
	version: number;
	profile: Method;
}

/** What the file's methods are here: those with the same words are used, the others become the asker's own. */
async function methodsHere(
	db: Connection,
	asker: Asker,
	book: Book,
	newId: string,
	keep: boolean
): Promise<{ ids: Map<string, string>; made: MadeMethod[] }> {
	const ids = new Map<string, string>();
	const made: MadeMethod[] = [];
	for (const m of book.methods) {
		const exact = await methodVersionFor(db, asker, m.versionId);
		if (exact && same(exact, m.profile)) {
			ids.set(m.versionId, m.versionId).set(m.methodId, m.methodId);
			continue;
		}
		const versions = await db
			.select({ id: methodVersion.id, profile: methodVersion.profile, ownerId: method.ownerId })
			.from(methodVersion)
			.innerJoin(method, eq(method.id, methodVersion.methodId))
			.where(
				and(
					or(eq(methodVersion.methodId, m.methodId), eq(methodVersion.methodId, uuidV5(m.methodId, newId))),
					eq(methodVersion.name, m.profile.name)
				)
			);
		const alike = versions.find(
			(v) => (v.ownerId === null || v.ownerId === asker.userId) && same(v.profile, m.profile)
		);
		if (alike) {
			ids.set(m.versionId, alike.id).set(m.methodId, m.methodId);
			continue;
		}
		const [taken] = await db.select({ id: method.id }).from(method).where(eq(method.id, m.methodId));
		const methodId = keep && !taken ? m.methodId : uuidV5(m.methodId, newId);
		const versionId = keep && !exact ? m.versionId : uuidV5(m.versionId, newId);
		ids.set(m.versionId, versionId).set(m.methodId, methodId);
		made.push({ methodId, versionId, version: m.version, profile: m.profile });
	}
	return { ids, made };
}

async function writeBook(db: Connection, asker: Asker, book: Book, made: MadeMethod[]): Promise<void> {
	const { system: about, sources, bands, runs, readings, events } = book;
	const [me] = await db.select({ name: user.name }).from(user).where(eq(user.id, asker.userId));
	const attributed = (by: string) => (by === me!.name ? null : by);
	const { createdAt, sizes, ...rest } = about;
	await db.insert(system).values({ ...rest, sizes: sizes ?? null, createdAt: new Date(createdAt) });
	const systemId = about.id;
	await db.insert(membership).values({ userId: asker.userId, systemId, role: 'owner' });
	await db.insert(source).values(sources.map((s) => ({ ...s, systemId })));
	const edges = Object.entries(bands).map(([parameter, b]) => ({ systemId, parameter, ...b }));
	if (edges.length) await db.insert(band).values(edges);
	for (const m of made) {
		await db
			.insert(method)
			.values({ id: m.methodId, ownerId: asker.userId, slug: m.profile.id, parameter: m.profile.parameter })
			.onDuplicateKeyUpdate({ set: { slug: m.profile.id } });
		await db.insert(methodVersion).values({
			id: m.versionId,
			methodId: m.methodId,
			version: m.version,
			name: m.profile.name,
			profile: m.profile,
			createdAt: now()
		});
	}
	for (const r of runs) {
		await db.insert(run).values({
			id: r.id,
			systemId,
			sourceId: r.sourceId,
			byUserId: asker.userId,
			startedAt: new Date(r.startedAt),
			finishedAt: r.finishedAt ? new Date(r.finishedAt) : null
		});
		if (r.events.length)
			await db
				.insert(runEvent)
				.values(
					r.events.map((body, i) => ({ id: body.id, runId: r.id, seq: i + 1, byUserId: asker.userId, body }))
				);
	}
	const profiles = new Map(book.methods.map((m) => [m.versionId, m.profile]));
	const evenings = new Map(
		runs.map((r) => [
			r.id,
			{
				events: r.events.map((e, i) => ({ seq: i + 1, event: e })),
				methods: Object.fromEntries(profiles)
			}
		])
	);
	const samples = new Map(
		readings.map((r) => [r.sampleId, { id: r.sampleId, sourceId: r.sourceId, takenAt: new Date(r.takenAt) }])
	);
	await inChunks([...samples.values()], (rows) => writeRows(db, sample, rows));
	await inChunks(readings, async (rows) => {
		await writeRows(
			db,
			reading,
			rows.map((r) => {
				const evening = r.runId === undefined ? undefined : evenings.get(r.runId);
				const conduct = evening && conductIn(evening, r.id);
				return {
					id: r.id,
					systemId,
					sampleId: r.sampleId,
					sourceId: r.sourceId,
					parameter: profiles.get(r.revisions[0]!.methodVersionId)!.parameter,
					takenAt: new Date(r.takenAt),
					revision: r.revisions.length,
					runId: r.runId ?? null,
					conduct: conduct ?? null,
					marks: conduct ? marksOf(conduct) : null
				};
			})
		);
		await writeRows(
			db,
			revision,
			rows.flatMap((r) =>
				r.revisions.map((s, i) => {
					return {
						readingId: r.id,
						revision: i + 1,
						byUserId: asker.userId,
						attributedTo: attributed(s.by),
						at: new Date(s.at),
						methodVersionId: s.methodVersionId,
						takenAt: s.takenAt ? new Date(s.takenAt) : null,
						raw: s.raw,
						sampleSize: s.sampleSize ?? null,
						takenAwayId: s.takenAwayId ?? null,
						...columnsOf(s.result, profiles.get(s.methodVersionId)!.parameter),
						calculation: s.calculation,
						voided: s.voided,
						reason: s.reason ?? null
					};
				})
			)
		);
	});
	await inChunks(events, (rows) =>
		writeRows(
			db,
			event,
			rows.map((e) => ({
				id: e.id,
				systemId,
				at: new Date(e.at),
				body: e.event,
				byUserId: asker.userId,
				attributedTo: attributed(e.by),
				createdAt: new Date(e.createdAt),
				voided: e.voided,
				reason: e.reason ?? null
			}))
		)
	);
}

async function inChunks<T>(rows: T[], write: (rows: T[]) => Promise<unknown>): Promise<void> {
	for (let from = 0; from < rows.length; from += AT_ONCE) await write(rows.slice(from, from + AT_ONCE));
}
