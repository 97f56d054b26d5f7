import { error } from '@sveltejs/kit';
import { and, eq } from 'drizzle-orm';
import type { Connection } from './db/connection';
import { membership } from './db/schema';

/** Who asks. Every store function takes one and refuses what is not theirs. */
export interface Asker {
	userId: string;
}

/** What each asker was found to be, tank by tank. An asker lives for one request, so this is never stale. */
const roles = new WeakMap<Asker, Map<string, Promise<string | undefined>>>();

function roleOf(db: Connection, asker: Asker, systemId: string): Promise<string | undefined> {
	const known = roles.get(asker) ?? new Map<string, Promise<string | undefined>>();
	roles.set(asker, known);
	const role =
		known.get(systemId) ??
		db
			.select({ role: membership.role })
			.from(membership)
			.where(and(eq(membership.userId, asker.userId), eq(membership.systemId, systemId)))
			.then(([found]) => found?.role);
	known.set(systemId, role);
	return role;
}

/** Refuses (404, as if it were not there) a system the asker is no member of, and (403) a write by a viewer. */
export async function mayUse(
	db: Connection,
	asker: Asker,
	systemId: string,
	access: 'read' | 'write'
): Promise<void> {
	const role = await roleOf(db, asker, systemId);
	if (!role) error(404, 'There is no such tank, or it is not yours.');
	if (access === 'write' && role === 'viewer') error(403, 'You may look at this tank but not change it.');
}
