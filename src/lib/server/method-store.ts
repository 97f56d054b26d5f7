import { and, asc, eq, isNull, or, sql } from 'drizzle-orm';
import { v5 as uuidV5, v7 as uuidV7 } from 'uuid';
import { SHIPPED_METHODS, type Method } from '../../core/methods';
import type { Asker } from './asker';
import { database, type Connection } from './db/connection';
import { method, methodVersion } from './db/schema';

export interface KnownMethod {
	id: string;
	versionId: string;
	version: number;
	profile: Method;
}

/** The newest version of every method the asker may use: those that came with Tevrik and their own. */
export async function methodsFor(asker: Asker): Promise<KnownMethod[]> {
	const db = database();
	const newest = sql`(select max(v.version) from ${methodVersion} v where v.method_id = ${method.id})`;
	return db
		.select({
			id: method.id,
			versionId: methodVersion.id,
			version: methodVersion.version,
			profile: methodVersion.profile
		})
		.from(method)
		.innerJoin(methodVersion, and(eq(methodVersion.methodId, method.id), eq(methodVersion.version, newest)))
		.where(or(isNull(method.ownerId), eq(method.ownerId, asker.userId)))
		.orderBy(asc(method.parameter), asc(method.slug));
}

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

/** Ids of shipped methods follow from their names, so that every database agrees. */
const SHIPPED_NAMESPACE = '6f0d7a52-3c1e-5b7c-9a54-51b0a8f1d9e3';
export const shippedMethodId = (slug: string): string => uuidV5(slug, SHIPPED_NAMESPACE);

/** Brings the methods that come with Tevrik up to date; one that changed gets a new version. */
export async function installShippedMethods(now: Date): Promise<void> {
	await database().transaction(async (db) => {
		for (const profile of SHIPPED_METHODS) {
			const id = shippedMethodId(profile.id);
			await db
				.insert(method)
				.values({ id, ownerId: null, slug: profile.id, parameter: profile.parameter })
				.onDuplicateKeyUpdate({ set: { parameter: profile.parameter } });
			const versions = await db.select().from(methodVersion).where(eq(methodVersion.methodId, id));
			const newest = versions.sort((a, b) => b.version - a.version)[0];
			if (newest && JSON.stringify(newest.profile) === JSON.stringify(profile)) continue;
			await db.insert(methodVersion).values({
				id: uuidV7(),
				methodId: id,
				version: (newest?.version ?? 0) + 1,
				name: profile.name,
				profile,
				createdAt: now
			});
		}
	});
}
