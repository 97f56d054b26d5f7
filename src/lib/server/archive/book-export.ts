import { and, asc, desc, eq, gt, inArray } from 'drizzle-orm';
import { open, unlink, type FileHandle } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pLimit from 'p-limit';
import { v4 as uuidV4 } from 'uuid';
import { now } from '../clock';
import { Unavailable, transaction, type Connection } from '../db/connection';
import {
	band,
	event,
	methodVersion,
	photo,
	reading,
	revision,
	run,
	runEvent,
	source,
	system,
	user
} from '../db/schema';
import { mayUse, type Asker } from '../identity/asker';

/** So many readings are fetched at once. */
const AT_ONCE = 500;
/** Books that are being written at once, each on a connection; so many more may wait for their turn. */
const WRITERS = 2;
const MOST_WAITING = 50;
const turn = pLimit(WRITERS);

/**
 * Everything of a tank as `tevrik.book/1`, all from one moment: written to a file of no name as fast as the database gives it,
 * then handed out from there, so that however slowly somebody reads, no connection waits for them.
 */
export async function bookFile(asker: Asker, systemId: string): Promise<AsyncGenerator<string>> {
	await mayUse(asker, systemId, 'read');
	if (turn.pendingCount >= MOST_WAITING) throw new Unavailable(undefined, 'too many books are asked for');
	return turn(() => spooled(systemId));
}

async function spooled(systemId: string): Promise<AsyncGenerator<string>> {
	const path = join(tmpdir(), `tevrik-book-${uuidV4()}`);
	const file = await open(path, 'wx+', 0o600);
	try {
		// From here on it has no name: it is gone when it is closed, whatever happens.
		await unlink(path);
		await transaction(
			async (db) => {
				await file.truncate(0);
				let at = 0;
				for await (const piece of written(db, systemId)) at += (await file.write(piece, at)).bytesWritten;
			},
			{ isolationLevel: 'repeatable read', accessMode: 'read only' }
		);
	} catch (failure) {
		await file.close();
		throw failure;
	}
	return piecesOf(file);
}

async function* piecesOf(file: FileHandle): AsyncGenerator<string> {
	try {
		yield* file.createReadStream({ start: 0, encoding: 'utf8', autoClose: false });
	} finally {
		await file.close();
	}
}

async function* written(db: Connection, systemId: string): AsyncGenerator<string> {
	const names = new Map(
		(await db.select({ id: user.id, name: user.name }).from(user)).map((u) => [u.id, u.name])
	);
	yield `${JSON.stringify(await headOf(db, systemId)).slice(0, -1)},"readings":[`;
	/** Ids of the method versions that anything in the book refers to. */
	const versions = new Set<string>();
	yield* readingsOf(db, systemId, names, versions);
	const runs = await runsOf(db, systemId);
	for (const { events } of runs)
		for (const e of events)
			if (e.kind === 'begin') e.tests.forEach((t) => versions.add(t.methodVersionId));
			else if (e.kind === 'add') versions.add(e.added.methodVersionId);
	const events = await eventsOf(db, systemId, names);
	const methods = await methodsOf(db, versions);
	yield `],${JSON.stringify({ runs, events, methods }).slice(1, -1)},"photos":[`;
	yield* photosOf(db, systemId);
	yield ']}';
}

async function headOf(db: Connection, systemId: string) {
	const [tank] = await db.select().from(system).where(eq(system.id, systemId));
	const bands = await db.select().from(band).where(eq(band.systemId, systemId)).orderBy(asc(band.parameter));
	const sources = await db.select().from(source).where(eq(source.systemId, systemId)).orderBy(asc(source.id));
	const { sizes, createdAt, netVolumeError, waterChange, ...about } = tank!;
	return {
		format: 'tevrik.book/1',
		writtenAt: now().toISOString(),
		system: {
			...about,
			...(sizes ? { sizes } : {}),
			...(netVolumeError === null ? {} : { netVolumeError }),
			...(waterChange ? { waterChange } : {}),
			createdAt: createdAt.toISOString()
		},
		bands: Object.fromEntries(bands.map(({ parameter, lower, upper }) => [parameter, { lower, upper }])),
		sources: sources.map(({ id, kind, name, content }) => ({
			id,
			kind,
			name,
			...(content ? { content } : {})
		}))
	};
}

/** Readings with their revisions, a page of them at a time; what they were read by is added to `versions`. */
async function* readingsOf(
	db: Connection,
	systemId: string,
	names: Map<string, string>,
	versions: Set<string>
): AsyncGenerator<string> {
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
		const byReading = grouped(states, (s) => s.readingId);
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
}

async function runsOf(db: Connection, systemId: string) {
	const runRows = await db.select().from(run).where(eq(run.systemId, systemId)).orderBy(asc(run.id));
	const happened = runRows.length
		? await db
				.select()
				.from(runEvent)
				.where(
					inArray(
						runEvent.runId,
						runRows.map((e) => e.id)
					)
				)
				.orderBy(asc(runEvent.runId), asc(runEvent.seq))
		: [];
	const byRun = grouped(happened, (h) => h.runId);
	return runRows.map((e) => ({
		id: e.id,
		sourceId: e.sourceId,
		startedAt: e.startedAt.toISOString(),
		...(e.finishedAt ? { finishedAt: e.finishedAt.toISOString() } : {}),
		events: (byRun.get(e.id) ?? []).map((h) => h.body)
	}));
}

async function eventsOf(db: Connection, systemId: string, names: Map<string, string>) {
	const done = await db
		.select()
		.from(event)
		.where(eq(event.systemId, systemId))
		.orderBy(asc(event.at), asc(event.id));
	return done.map((e) => ({
		id: e.id,
		at: e.at.toISOString(),
		event: e.body,
		by: e.attributedTo ?? names.get(e.byUserId)!,
		createdAt: e.createdAt.toISOString(),
		voided: e.voided,
		...(e.reason === null ? {} : { reason: e.reason })
	}));
}

async function methodsOf(db: Connection, versions: Set<string>) {
	return versions.size
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
}

/** Pictures of a book take so many bytes as text at most: the newest first. */
const MOST_PICTURES = 40 * 1_048_576;

async function* photosOf(db: Connection, systemId: string): AsyncGenerator<string> {
	const held = await db
		.select({ id: photo.id })
		.from(photo)
		.where(and(eq(photo.systemId, systemId), eq(photo.gone, false)))
		.orderBy(desc(photo.at), desc(photo.id));
	let size = 0;
	for (const { id } of held) {
		const [p] = await db.select().from(photo).where(eq(photo.id, id));
		if (!p) continue;
		size += p.jpeg.length;
		if (size > MOST_PICTURES) return;
		const line = {
			id: p.id,
			readingId: p.readingId,
			at: p.at.toISOString(),
			picture: p.jpeg,
			...(p.marks ? { marks: p.marks } : {})
		};
		yield (size === p.jpeg.length ? '' : ',') + JSON.stringify(line);
	}
}

function grouped<T>(rows: T[], by: (row: T) => string): Map<string, T[]> {
	const groups = new Map<string, T[]>();
	for (const row of rows) {
		const group = groups.get(by(row));
		if (group) group.push(row);
		else groups.set(by(row), [row]);
	}
	return groups;
}
