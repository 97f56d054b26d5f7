import { and, asc, desc, eq, isNull, or, sql } from 'drizzle-orm';
import { v5 as uuidV5, v7 as uuidV7 } from 'uuid';
import { type Method } from '../../../core/instruments';
import { SHIPPED_METHODS, checkMethod, hasOwnChart, isKnownValue } from '../../../core/methods';
import { bad, badAll, good, type Outcome } from '../../../core/base';
import type { KnownMethod, SaveMethod, SavedMethod } from '../../api/methods';
import { mayMake, ofPerson, tanksToWrite, writing, type Asker } from '../identity/asker';
import { database, transaction, type Connection } from '../db/connection';
import { method, methodVersion } from '../db/schema';
import { computeAgain } from './readings/again';

/** The newest version of every method the asker may use: those that came with Tevrik and their own. */
export async function methodsFor(asker: Asker): Promise<KnownMethod[]> {
	return ofPerson(asker, ['methods'], () => {
		const newest = sql`(select max(v.version) from ${methodVersion} v where v.method_id = ${method.id})`;
		return database()
			.select({
				id: method.id,
				versionId: methodVersion.id,
				version: methodVersion.version,
				profile: methodVersion.profile,
				own: sql<boolean>`${method.ownerId} is not null`.mapWith(Boolean)
			})
			.from(method)
			.innerJoin(methodVersion, and(eq(methodVersion.methodId, method.id), eq(methodVersion.version, newest)))
			.where(or(isNull(method.ownerId), eq(method.ownerId, asker.userId)))
			.orderBy(asc(method.parameter), asc(method.slug), desc(method.ownerId));
	});
}

/** What stands on the asker's shelf, and values read elsewhere: what a test can be read by. Templates are none of it. */
export const kitsFor = async (asker: Asker): Promise<KnownMethod[]> =>
	(await methodsFor(asker)).filter((m) => m.own || isKnownValue(m.profile));

/** The version a reading was made with, if the asker may use it. */
export async function methodVersionFor(
	db: Connection,
	asker: Asker,
	versionId: string
): Promise<Method | undefined> {
	const [found] = await db
		.select({ profile: methodVersion.profile })
		.from(methodVersion)
		.innerJoin(method, eq(method.id, methodVersion.methodId))
		.where(
			and(eq(methodVersion.id, versionId), or(isNull(method.ownerId), eq(method.ownerId, asker.userId)))
		);
	return found?.profile;
}

/**
 * The chart that has come for a kit since a version of it that had none of its own; nothing where none has. What a device sends late,
 * from before the chart, is computed by it too.
 */
export async function chartSince(
	db: Connection,
	versionId: string
): Promise<{ versionId: string; kit: Method } | undefined> {
	const [of] = await db
		.select({ methodId: methodVersion.methodId, ownerId: method.ownerId })
		.from(methodVersion)
		.innerJoin(method, eq(method.id, methodVersion.methodId))
		.where(eq(methodVersion.id, versionId));
	if (!of?.ownerId) return undefined;
	const [newest] = await db
		.select({ versionId: methodVersion.id, kit: methodVersion.profile })
		.from(methodVersion)
		.where(eq(methodVersion.methodId, of.methodId))
		.orderBy(desc(methodVersion.version))
		.limit(1);
	return newest && hasOwnChart(newest.kit) ? newest : undefined;
}

/** A version's profile, whoever's it is: for readings that were made with it. */
export async function profileOf(db: Connection, versionId: string): Promise<Method | undefined> {
	const [found] = await db
		.select({ profile: methodVersion.profile })
		.from(methodVersion)
		.where(eq(methodVersion.id, versionId));
	return found?.profile;
}

/** Methods one keeper may have; past this it is no shelf but a mistake. */
const MOST_METHODS = 500;

/**
 * Keeps a method of the asker's: a new one under the client's id, or a new version of theirs. Older readings stay with the
 * version they were made with, unless that had no chart of its own, or a wrong one: then they are computed again. Sending the same
 * profile again changes nothing. Problems: a profile that cannot be read, another's method, a version that was changed meanwhile.
 */
export async function saveMethod(
	asker: Asker,
	id: string,
	sent: SaveMethod,
	now: Date
): Promise<Outcome<SavedMethod>> {
	mayMake(asker);
	const flaws = checkMethod(sent.profile);
	if (flaws.length) return badAll(flaws.map((f) => ({ ...f, path: `/profile${f.path}` })));
	const { profile } = sent;
	const tanks = await tanksToWrite(asker);
	return writing(asker, asker.userId, async (db) => {
		const [held] = await db.select().from(method).where(eq(method.id, id)).for('update');
		if (held && held.ownerId !== asker.userId)
			return bad('', 'is not yours to change; make a copy of it and change that');
		if (!held) {
			const mine = await db.select({ id: method.id }).from(method).where(eq(method.ownerId, asker.userId));
			if (mine.length >= MOST_METHODS)
				return bad('', `you have ${MOST_METHODS} methods already; remove one first`);
			await db
				.insert(method)
				.values({ id, ownerId: asker.userId, slug: profile.id, parameter: profile.parameter });
		}
		const versions = await db.select().from(methodVersion).where(eq(methodVersion.methodId, id));
		const newest = versions.sort((a, b) => b.version - a.version)[0];
		if (newest && same(newest.profile, profile))
			return good({ id, versionId: newest.id, version: newest.version, profile });
		if (newest && sent.basedOn !== undefined && newest.version !== sent.basedOn)
			return bad(
				'',
				`was changed meanwhile, to version ${newest.version}; open it again and repeat your change`
			);
		if (newest && newest.profile.parameter !== profile.parameter)
			return bad(
				'/profile/parameter',
				'cannot change: readings hang on it. Make a copy for another parameter'
			);
		const version = (newest?.version ?? 0) + 1;
		const versionId = uuidV7();
		await db
			.insert(methodVersion)
			.values({ id: versionId, methodId: id, version, name: profile.name, profile, createdAt: now });
		const saved = { id, versionId, version, profile };
		if (!hasOwnChart(profile)) return good(saved);
		const charted = versions.filter((v) => !hasOwnChart(v.profile) || (sent.again && v.id === newest?.id));
		const byTemplate = sent.template === undefined ? [] : await templateVersions(db, sent.template);
		return good({
			...saved,
			again: await computeAgain(db, asker, {
				by: charted.map((v) => v.id),
				byAsker: byTemplate,
				tanks,
				versionId,
				kit: profile
			})
		});
	});
}

/** Every version of a template. */
async function templateVersions(db: Connection, id: string): Promise<string[]> {
	const found = await db
		.select({ id: methodVersion.id })
		.from(methodVersion)
		.innerJoin(method, eq(method.id, methodVersion.methodId))
		.where(and(eq(method.id, id), isNull(method.ownerId)));
	return found.map((v) => v.id);
}

/** Alike whatever the order of fields. */
export const same = (a: unknown, b: unknown): boolean => canonical(a) === canonical(b);
const canonical = (value: unknown): string =>
	JSON.stringify(value, (_key, v: unknown) =>
		v && typeof v === 'object' && !Array.isArray(v)
			? Object.fromEntries(Object.entries(v).sort(([a], [b]) => a.localeCompare(b)))
			: v
	);

/** Ids of shipped methods follow from their names, so that every database agrees. */
const SHIPPED_NAMESPACE = '6f0d7a52-3c1e-5b7c-9a54-51b0a8f1d9e3';
export const shippedMethodId = (slug: string): string => uuidV5(slug, SHIPPED_NAMESPACE);

/** Brings the methods that come with Tevrik up to date; one that changed gets a new version. */
export async function installShippedMethods(now: Date): Promise<void> {
	await transaction(async (db) => {
		for (const profile of SHIPPED_METHODS) {
			const id = shippedMethodId(profile.id);
			await db
				.insert(method)
				.values({ id, ownerId: null, slug: profile.id, parameter: profile.parameter })
				.onDuplicateKeyUpdate({ set: { parameter: profile.parameter } });
			const versions = await db.select().from(methodVersion).where(eq(methodVersion.methodId, id));
			const newest = versions.sort((a, b) => b.version - a.version)[0];
			if (newest && same(newest.profile, profile)) continue;
			await db.insert(methodVersion).values({
				// The same words have the same id on every server, so that books agree.
				id: uuidV5(`${profile.id} ${canonical(profile)}`, SHIPPED_NAMESPACE),
				methodId: id,
				version: (newest?.version ?? 0) + 1,
				name: profile.name,
				profile,
				createdAt: now
			});
		}
	});
}
