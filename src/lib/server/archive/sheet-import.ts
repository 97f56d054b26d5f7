import { tagged } from '../../../core/instruments';
import { and, desc, eq, inArray, sql } from 'drizzle-orm';
import type { MySqlTable } from 'drizzle-orm/mysql-core';
import { v5 as uuidV5 } from 'uuid';
import { SHIPPED_METHODS, isKnownValue, read } from '../../../core/methods';
import { readSheet, type SheetNote, type SheetReading } from '../../../core/formats';
import { cut } from '../../../core/base';
import type { ImportProgress, TakeIn, TakenFile } from '../../api/imports';
import { SOURCE_KINDS, type SourceKind } from '../../api/systems';
import { linesOf, rowsInTurn, tooLarge } from '../../sheets/parse';
import { mayUse, writing, type Asker } from '../identity/asker';
import { now } from '../clock';
import { DUPLICATE, database, errnoOf, transaction, type Connection } from '../db/connection';
import { writeRows } from '../db/rows';
import { touch } from '../db/stamps';
import { event, importedFile, methodVersion, reading, revision, sample, source, user } from '../db/schema';
import { shippedMethodId } from '../stores/methods';
import { readingRow, revisionRow, voidWhere } from '../stores/readings';
import { sourcesOf, systemFor } from '../stores/systems';
import { refuse } from '../refuse';

/** So many readings are written at once: large enough to be fast, small enough to tell how far it is. */
const AT_ONCE = 2000;
/** Waters that one sheet may name: every tank, bin and bottle of a keeper. */
const MOST_WATERS = 100;
/** Said of readings that went when their file was taken back; they come again with the same file. */
const TAKEN_BACK = 'its import was undone';

/**
 * Takes a sheet in, in one transaction, telling how far it is. Each reading's id follows from what it says, so that the same
 * file a second time adds nothing. What cannot be taken is left out and counted; the keeper has seen it before.
 */
export async function* takeIn(
	asker: Asker,
	systemId: string,
	text: string,
	choice: TakeIn
): AsyncGenerator<ImportProgress> {
	await mayUse(asker, systemId, 'write');
	const [held] = await database().select().from(importedFile).where(eq(importedFile.id, choice.id));
	if (held) {
		if (held.systemId !== systemId) refuse(409, 'This id is in use.');
		yield {
			kind: 'done',
			id: held.id,
			added: held.added,
			known: held.known,
			refused: held.refused,
			notes: 0
		};
		return;
	}
	const { timeZone } = await systemFor(asker, systemId);
	const large = tooLarge(text, choice.separator);
	if (large) refuse(422, large);
	const lines = linesOf(text);
	yield { kind: 'progress', done: 0, of: lines };
	const progress: Progress = { done: 0, of: lines, left: false };
	const write = transaction(async (db) => {
		// Every row's source, kit and person were looked up just now: looking them up again for each costs half the time.
		await db.execute(sql`set foreign_key_checks = 0`);
		try {
			const written = await writeSheet(db, asker, systemId, text, choice, timeZone, progress);
			await touch(db, [systemId]);
			return written;
		} finally {
			await db.execute(sql`set foreign_key_checks = 1`);
		}
	});
	let over = false;
	const end = write.finally(() => {
		over = true;
		progress.tell?.();
	});
	end.catch(() => undefined);
	try {
		for (let last = 0; !over; last = progress.done) {
			if (progress.done === last) await new Promise<void>((done) => (progress.tell = done));
			if (!over && progress.done > last) yield { kind: 'progress', done: progress.done, of: lines };
		}
	} finally {
		// Whoever stops listening stops the import.
		progress.left = !over;
	}
	try {
		const { added, known, refused, notes } = await end;
		yield { kind: 'done', id: choice.id, added, known, refused, notes };
	} catch (failure) {
		if (errnoOf(failure) !== DUPLICATE) throw failure;
		yield { kind: 'failed', message: 'This file is being imported already.' };
	}
}

/** How far an import is, in lines: a transaction tells nothing before it ends. `tell` is called whenever it went on; nothing is kept once `left`. */
interface Progress {
	done: number;
	of: number;
	left: boolean;
	tell?: () => void;
}

/** Writes all rows of a sheet into an open transaction, and counts what they were. */
async function writeSheet(
	db: Connection,
	asker: Asker,
	systemId: string,
	text: string,
	choice: TakeIn,
	timeZone: string,
	progress: Progress
): Promise<{ added: number; known: number; refused: number; notes: number }> {
	const kits = await knownVersions(db);
	const waters = await watersFor(db, asker, systemId);
	await db.insert(importedFile).values({
		id: choice.id,
		systemId,
		byUserId: asker.userId,
		at: now(),
		name: cut(choice.name, 200),
		added: 0,
		known: 0,
		refused: 0
	});
	const again = await hasTakenBack(db, systemId);
	const seen = new Map<string, number>();
	const counts = { added: 0, read: 0, refused: 0, notes: 0 };
	let layout = choice.layout;
	let before = 0;
	for (const rows of rowsInTurn(text, choice.separator)) {
		const content = readSheet(rows, layout, { timeZone, now: now().getTime() });
		// The header stood in the first of them.
		layout = { ...layout, headerRow: null };
		for (const chunk of chunked(content.readings)) {
			if (progress.left) throw new Error('the import was stopped; nothing of it is kept');
			const written: ReturnType<typeof rowOf>[] = [];
			for (const r of chunk)
				written.push(rowOf(r, await waters(r.water), kits, asker, systemId, choice.id, seen));
			counts.added += await writeReadings(db, written);
			if (again)
				counts.added += await bringBack(
					db,
					asker,
					written.map((c) => c.reading.id),
					choice.id
				);
			progress.done = Math.min(progress.of, before + chunk.at(-1)!.row + 1);
			progress.tell?.();
		}
		await writeNotes(db, asker, systemId, content.notes, choice.id);
		counts.read += content.readings.length;
		counts.refused += content.refused.length;
		counts.notes += content.notes.length;
		before += rows.length;
	}
	const known = counts.read - counts.added;
	await db
		.update(importedFile)
		.set({ added: counts.added, known, refused: counts.refused })
		.where(eq(importedFile.id, choice.id));
	return { ...counts, known };
}

/** Remarks of a sheet, as notes of the tank's; those that are there already stay as they are. */
async function writeNotes(
	db: Connection,
	asker: Asker,
	systemId: string,
	notes: SheetNote[],
	importId: string
): Promise<void> {
	for (const chunk of chunked(notes))
		await writeRows(
			db,
			event,
			chunk.map((n) => ({
				id: uuidV5(`note ${n.meant} ${n.text}`, systemId),
				systemId,
				at: new Date(n.at),
				body: { kind: 'note' as const, text: n.text },
				byUserId: asker.userId,
				createdAt: now(),
				importId,
				voided: false
			})),
			'leave out'
		);
}

type Kit = { versionId: string; method: (typeof SHIPPED_METHODS)[number] };

/** The method "a value from elsewhere" of each parameter in its newest version. */
async function knownVersions(db: Connection): Promise<Map<string, Kit>> {
	const methods = SHIPPED_METHODS.filter((m) => isKnownValue(m));
	const ids = new Map(methods.map((m) => [shippedMethodId(m.id), m]));
	const rows = await db
		.select({ id: methodVersion.id, methodId: methodVersion.methodId })
		.from(methodVersion)
		.where(inArray(methodVersion.methodId, [...ids.keys()]))
		.orderBy(methodVersion.version);
	return new Map(
		rows.map((r) => [ids.get(r.methodId)!.parameter, { versionId: r.id, method: ids.get(r.methodId)! }])
	);
}

function* chunked<T>(items: T[]): Generator<T[]> {
	for (let from = 0; from < items.length; from += AT_ONCE) yield items.slice(from, from + AT_ONCE);
}

/** Writes readings with their samples and revisions; how many were not there yet. */
async function writeReadings(db: Connection, rows: ReturnType<typeof rowOf>[]): Promise<number> {
	const put = <T extends MySqlTable>(table: T, of: Partial<T['$inferInsert']>[]) =>
		writeRows(db, table, of, 'leave out');
	await put(
		sample,
		rows.map((r) => r.sample)
	);
	const added = await put(
		reading,
		rows.map((r) => r.reading)
	);
	await put(
		revision,
		rows.map((r) => r.revision)
	);
	return added;
}

/** Which water here a sheet's word for one means; one that is not known is made. */
async function watersFor(
	db: Connection,
	asker: Asker,
	systemId: string
): Promise<(word: string | null) => Promise<string>> {
	const known = await sourcesOf(asker, systemId);
	const found = new Map<string | null, string>([[null, known.find((s) => s.kind === 'tank')!.id]]);
	return async (word) => {
		const before = found.get(word);
		if (before !== undefined || word === null) return before!;
		const low = word.toLowerCase();
		const there = known.find((s) => s.name.toLowerCase() === low) ?? known.find((s) => s.kind === low);
		const id = there?.id ?? uuidV5(`water ${low}`, systemId);
		if (!there) {
			if (found.size > MOST_WATERS)
				refuse(
					422,
					`This sheet names more than ${MOST_WATERS} waters. Is the column of waters the right one?`
				);
			const kind: SourceKind = SOURCE_KINDS.find((k) => k === low && k !== 'tank') ?? 'other';
			await writeRows(db, source, [{ id, systemId, kind, name: cut(word, 120) }], 'leave out');
		}
		found.set(word, id);
		return id;
	};
}

/**
 * An id that follows from what is said and begins with its moment (UUID version 8, RFC 9562), so that rows written together
 * lie together.
 */
function idAt(at: number, says: string, sourceId: string): string {
	const moment = Math.max(0, at).toString(16).padStart(12, '0');
	const rest = uuidV5(says, sourceId).slice(14);
	return `${moment.slice(0, 8)}-${moment.slice(8)}-8${rest.slice(1)}`;
}

function rowOf(
	r: SheetReading,
	sourceId: string,
	kits: Map<string, Kit>,
	asker: Asker,
	systemId: string,
	importId: string,
	seen: Map<string, number>
) {
	const { versionId, method } = kits.get(r.parameter)!;
	const result = read({ method, reading: r.raw });
	// The sheet's cells were checked on the way in: what a meter cannot show was refused there.
	if (!result.ok) throw new Error(`a sheet's reading was refused: ${JSON.stringify(result.problems)}`);
	const takenAt = new Date(r.at);
	const says = `${r.meant} ${r.parameter} ${JSON.stringify(r.raw)}`;
	// The same answer twice at one moment is two answers.
	const count = (seen.get(sourceId + says) ?? 0) + 1;
	seen.set(sourceId + says, count);
	const id = idAt(r.meant, `${says} ${count}`, sourceId);
	const sampleId = idAt(r.meant, `sample ${r.meant}`, sourceId);
	return {
		sample: { id: sampleId, sourceId, takenAt },
		reading: readingRow({ id, systemId, sampleId, sourceId, parameter: r.parameter, takenAt, importId }),
		revision: revisionRow(r.parameter, {
			readingId: id,
			revision: 1,
			byUserId: asker.userId,
			at: now(),
			methodVersionId: versionId,
			raw: tagged(method, r.raw),
			result: result.value,
			ownChart: true
		})
	};
}

async function hasTakenBack(db: Connection, systemId: string): Promise<boolean> {
	const [found] = await db
		.select({ id: importedFile.id })
		.from(importedFile)
		.where(and(eq(importedFile.systemId, systemId), eq(importedFile.takenBack, true)))
		.limit(1);
	return found !== undefined;
}

/** Readings that went with a file come again with it, and belong to the new import. How many. */
async function bringBack(db: Connection, asker: Asker, ids: string[], importId: string): Promise<number> {
	const gone = and(inArray(reading.id, ids), eq(revision.reason, TAKEN_BACK))!;
	const back = await db
		.select({ id: reading.id })
		.from(reading)
		.innerJoin(revision, and(eq(revision.readingId, reading.id), eq(revision.revision, reading.revision)))
		.where(and(gone, eq(revision.voided, true)));
	if (!back.length) return 0;
	await voidWhere(db, asker, gone, false, null);
	await db
		.update(reading)
		.set({ importId })
		.where(
			inArray(
				reading.id,
				back.map((r) => r.id)
			)
		);
	return back.length;
}

/** Takes out all that came with a file and has not been voided since; doing it again changes nothing. */
export async function takeBackFile(asker: Asker, systemId: string, id: string): Promise<{ changed: number }> {
	await mayUse(asker, systemId, 'write');
	return writing(asker, systemId, async (tx) => {
		const [held] = await tx
			.select()
			.from(importedFile)
			.where(and(eq(importedFile.id, id), eq(importedFile.systemId, systemId)))
			.for('update');
		if (!held) refuse(404, 'There is no such file.');
		const changed = await voidWhere(tx, asker, eq(reading.importId, id), true, TAKEN_BACK);
		await tx
			.update(event)
			.set({ voided: true, reason: TAKEN_BACK })
			.where(and(eq(event.importId, id), eq(event.voided, false)));
		await tx.update(importedFile).set({ takenBack: true }).where(eq(importedFile.id, id));
		return { changed };
	});
}

/** Files that were taken in, newest first. */
export async function filesOf(asker: Asker, systemId: string): Promise<TakenFile[]> {
	const db = database();
	await mayUse(asker, systemId, 'read');
	const { id, at, name, added, known, refused, takenBack } = importedFile;
	const rows = await db
		.select({ id, at, name, added, known, refused, takenBack, by: user.name })
		.from(importedFile)
		.innerJoin(user, eq(user.id, importedFile.byUserId))
		.where(eq(importedFile.systemId, systemId))
		.orderBy(desc(importedFile.at), desc(importedFile.id));
	return rows.map((r) => ({ ...r, at: r.at.toISOString() }));
}
