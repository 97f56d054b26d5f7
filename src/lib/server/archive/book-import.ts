import { and, eq, or } from 'drizzle-orm';
import { v5 as uuidV5 } from 'uuid';
import type { Book } from '../../../core/formats';
import { bad, badAll, good, type Outcome } from '../../../core/base';
import { DUPLICATE, database, errnoOf, type Connection } from '../db/connection';
import { method, methodVersion, system } from '../db/schema';
import { mayMake, mayUse, writing, type Asker } from '../identity/asker';
import { methodVersionFor, same } from '../stores/methods';
import { tooManyTanks } from '../stores/systems';
import type { CleanPicture } from '../work/clean-picture';
import { cleanPicture } from '../work/pictures';
import { flawsOf } from './book-check';
import { withIds } from './book-ids';
import { writeBook, type MadeMethod } from './book-write';
import { refuse } from '../refuse';

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
