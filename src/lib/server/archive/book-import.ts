import { and, eq, or } from 'drizzle-orm';
import { v5 as uuidV5 } from 'uuid';
import type { Book } from '../../../core/formats';
import { type Method, tagged } from '../../../core/instruments';
import { hasOwnChart, needsChart } from '../../../core/methods';
import { bad, badAll, good, type Outcome } from '../../../core/base';
import { now } from '../clock';
import { DUPLICATE, database, errnoOf, type Connection } from '../db/connection';
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
import { mayMake, mayUse, writing, type Asker } from '../identity/asker';
import { methodVersionFor, same, shippedMethodId } from '../stores/methods';
import { rowOf } from '../stores/photos';
import { tooManyTanks } from '../stores/systems';
import type { CleanPicture } from '../work/clean-picture';
import { cleanPicture } from '../work/pictures';
import { readingRow, revisionRow } from '../stores/readings';
import { conductIn } from '../stores/runs';
import { flawsOf } from './book-check';
import { withIds } from './book-ids';
import { refuse } from '../refuse';

/** So many rows are written at once. */
const AT_ONCE = 500;

/**
 * Takes a book in as a tank of the asker's under an id of the client's; sending it again changes nothing. Everything in it
 * gets an id of its own here, unless the tank keeps the id it has in the file; methods that are here already are used.
 * Problems: what the file says of itself does not fit together.
 */
export async function takeBook(asker: Asker, id: string, sent: Book): Promise<Outcome<{ id: string }>> {
	mayMake(asker);
	const db = database();
	const [there] = await db.select({ id: system.id }).from(system).where(eq(system.id, id));
	if (there) {
		await mayUse(asker, id, 'own');
		return good({ id });
	}
	const many = await tooManyTanks(asker);
	if (many) return many;
	const flaws = flawsOf(sent);
	if (flaws.length) return badAll(flaws);
	// Pictures of a file are foreign: each is decoded and written anew, as one that is sent by itself.
	const pictures: CleanPicture[] = [];
	for (const [i, p] of (sent.photos ?? []).entries()) {
		const clean = await cleanPicture(Buffer.from(p.picture, 'base64'));
		if (!clean.ok) return bad(`/photos/${i}/picture`, clean.problems[0]!.message);
		pictures.push(clean.value);
	}
	const keep = sent.system.id === id;
	const methods = await methodsHere(db, asker, sent, id, keep);
	const book = withIds(sent, (old) =>
		old === sent.system.id ? id : (methods.ids.get(old) ?? (keep ? old : uuidV5(old, id)))
	);
	try {
		await writing(asker, [id, asker.userId], (tx) => writeBook(tx, asker, book, methods.made, pictures));
	} catch (failure) {
		if (errnoOf(failure) !== DUPLICATE) throw failure;
		refuse(409, 'Part of this book is kept here already. Import it as a copy, under another id.');
	}
	return good({ id });
}

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

async function writeBook(
	db: Connection,
	asker: Asker,
	book: Book,
	made: MadeMethod[],
	pictures: CleanPicture[]
): Promise<void> {
	const { system: about, sources, bands, runs, readings, events } = book;
	const [me] = await db.select({ name: user.name }).from(user).where(eq(user.id, asker.userId));
	const attributed = (by: string) => (by === me!.name ? null : by);
	const { createdAt, sizes, ...rest } = about;
	await db.insert(system).values({ ...rest, sizes: sizes ?? null, createdAt: new Date(createdAt) });
	const systemId = about.id;
	await db.insert(membership).values({ userId: asker.userId, systemId, role: 'owner' });
	await db.insert(source).values(sources.map((s) => ({ ...s, systemId })));
	const limits = Object.entries(bands).map(([parameter, b]) => ({ systemId, parameter, ...b }));
	if (limits.length) await db.insert(band).values(limits);
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
