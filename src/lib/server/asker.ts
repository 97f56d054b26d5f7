import { error } from '@sveltejs/kit';
import { and, eq } from 'drizzle-orm';
import type { Connection } from './db/connection';
import { membership } from './db/schema';

/** Who asks. Every store function takes one and refuses what is not theirs. */
export interface Asker {
	userId: string;
}

/** Refuses (404, as if it were not there) a system the asker is no member of, and (403) a write by a viewer. */
export async function mayUse(
	db: Connection,
	asker: Asker,
	systemId: string,
	access: 'read' | 'write'
): Promise<void> {
	const [found] = await db
		.select({ role: membership.role })
		.from(membership)
		.where(and(eq(membership.userId, asker.userId), eq(membership.systemId, systemId)));
	if (!found) error(404, 'There is no such tank, or it is not yours.');
	if (access === 'write' && found.role === 'viewer')
		error(403, 'You may look at this tank but not change it.');
}
