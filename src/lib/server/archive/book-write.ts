import type { Book } from '../../../core/formats';
import { type Method, tagged } from '../../../core/instruments';
import { hasOwnChart, needsChart } from '../../../core/methods';
import { eq } from 'drizzle-orm';
import { now } from '../clock';
import type { Connection } from '../db/connection';
import { writeRows } from '../db/rows';
import {
	band,
	event,
	membership,
	method,
	methodVersion,
	photo,
	reading,
	revision,
	run,
	runEvent,
	sample,
	source,
	system,
	user
} from '../db/schema';
import type { Asker } from '../identity/asker';
import { shippedMethodId } from '../stores/methods';
import { rowOf } from '../stores/photos';
import { readingRow, revisionRow } from '../stores/readings';
import { conductIn } from '../stores/runs';
import type { CleanPicture } from '../work/clean-picture';

/** So many rows are written at once. */
const AT_ONCE = 500;

export interface MadeMethod {
	methodId: string;
	versionId: string;
	version: number;
	profile: Method;
}

/** A book that is being written, whose ids are those it has here. */
interface Taking {
	db: Connection;
	asker: Asker;
	book: Book;
	systemId: string;
	/** Who wrote a line in the book, where that is not the asker. */
	attributed: (by: string) => string | null;
}

/** Writes a book into an open transaction: a tank of the asker's, the methods that are not here yet, and all that was done. */
export async function writeBook(
	db: Connection,
	asker: Asker,
	book: Book,
	made: MadeMethod[],
	pictures: CleanPicture[]
): Promise<void> {
	const [me] = await db.select({ name: user.name }).from(user).where(eq(user.id, asker.userId));
	const taking: Taking = {
		db,
		asker,
		book,
		systemId: book.system.id,
		attributed: (by) => (by === me!.name ? null : by)
	};
	await writeTank(taking);
	await writeMethods(taking, made);
	await writeRuns(taking);
	await writeReadings(taking);
	await writePhotos(taking, pictures);
	await writeEvents(taking);
}

async function writeTank({ db, asker, book, systemId }: Taking): Promise<void> {
	const { createdAt, sizes, ...rest } = book.system;
	await db.insert(system).values({ ...rest, sizes: sizes ?? null, createdAt: new Date(createdAt) });
	await db.insert(membership).values({ userId: asker.userId, systemId, role: 'owner' });
	await db.insert(source).values(book.sources.map((s) => ({ ...s, systemId })));
	const limits = Object.entries(book.bands).map(([parameter, b]) => ({ systemId, parameter, ...b }));
	if (limits.length) await db.insert(band).values(limits);
}

async function writeMethods({ db, asker }: Taking, made: MadeMethod[]): Promise<void> {
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
}

async function writeRuns({ db, asker, book, systemId }: Taking): Promise<void> {
	for (const r of book.runs) {
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
}

async function writeReadings({ db, asker, book, systemId, attributed }: Taking): Promise<void> {
	const { runs, readings } = book;
	const profiles = new Map(book.methods.map((m) => [m.versionId, m.profile]));
	// Books of before charts were marked hold templates without their mark.
	const charted = new Set(
		book.methods
			.filter(
				({ profile, methodId }) =>
					hasOwnChart(profile) && (!needsChart(profile.reads) || methodId !== shippedMethodId(profile.id))
			)
			.map((m) => m.versionId)
	);
	const counts = new Map(readings.map((r) => [r.id, charted.has(r.revisions.at(-1)!.methodVersionId)]));
	const runsById = new Map(
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
				const its = r.runId === undefined ? undefined : runsById.get(r.runId);
				const conduct = its && conductIn(its, r.id);
				return readingRow({
					id: r.id,
					systemId,
					sampleId: r.sampleId,
					sourceId: r.sourceId,
					parameter: profiles.get(r.revisions[0]!.methodVersionId)!.parameter,
					takenAt: new Date(r.takenAt),
					revisions: r.revisions.length,
					runId: r.runId,
					conduct
				});
			})
		);
		await writeRows(
			db,
			revision,
			rows.flatMap((r) =>
				r.revisions.map((s, i) =>
					revisionRow(profiles.get(s.methodVersionId)!.parameter, {
						readingId: r.id,
						revision: i + 1,
						byUserId: asker.userId,
						attributedTo: attributed(s.by),
						at: new Date(s.at),
						methodVersionId: s.methodVersionId,
						takenAt: s.takenAt ? new Date(s.takenAt) : undefined,
						raw: tagged(profiles.get(s.methodVersionId)!, s.raw),
						sampleSize: s.sampleSize,
						takenAwayId: s.takenAwayId,
						result: s.result,
						ownChart:
							charted.has(s.methodVersionId) &&
							(s.takenAwayId === undefined || counts.get(s.takenAwayId) !== false),
						calculation: s.calculation,
						voided: s.voided,
						reason: s.reason
					})
				)
			)
		);
	});
}

async function writePhotos({ db, asker, book, systemId }: Taking, pictures: CleanPicture[]): Promise<void> {
	for (const [i, p] of (book.photos ?? []).entries())
		await db.insert(photo).values({
			id: p.id,
			systemId,
			readingId: p.readingId,
			byUserId: asker.userId,
			at: new Date(p.at),
			marks: p.marks ?? null,
			...rowOf(pictures[i]!)
		});
}

async function writeEvents({ db, asker, book, systemId, attributed }: Taking): Promise<void> {
	await inChunks(book.events, (rows) =>
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
