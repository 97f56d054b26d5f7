import { error } from '@sveltejs/kit';
import { and, eq } from 'drizzle-orm';
import { database, type Connection } from './db/connection';
import { membership, user } from './db/schema';

/** Who asks. Every store function takes one and refuses what is not theirs. */
export interface Asker {
	userId: string;
	/** A program asks for that person: only these systems (null: all of theirs), and perhaps only to read. */
	token?: { systems: string[] | null; writes: boolean };
}

export type Role = 'owner' | 'keeper' | 'viewer';

/** What each asker was found to be, tank by tank. An asker lives for one request, so this is never stale. */
const roles = new WeakMap<Asker, Map<string, Promise<Role | undefined>>>();

/** What the asker is in a tank; undefined where it is not theirs, or not for their token. */
export function roleOf(db: Connection, asker: Asker, systemId: string): Promise<Role | undefined> {
	if (asker.token?.systems && !asker.token.systems.includes(systemId)) return Promise.resolve(undefined);
	const known = roles.get(asker) ?? new Map<string, Promise<Role | undefined>>();
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

/**
 * Refuses (404, as if it were not there) a system the asker is no member of, and (403) a write by a viewer or a reading
 * token, and what only an owner may do.
 */
export async function mayUse(
	db: Connection,
	asker: Asker,
	systemId: string,
	access: 'read' | 'write' | 'own'
): Promise<void> {
	const role = await roleOf(db, asker, systemId);
	if (!role) error(404, 'There is no such tank, or it is not yours.');
	if (access === 'read') return;
	mayWrite(asker);
	if (role === 'viewer') error(403, 'You may look at this tank but not change it.');
	if (access === 'own' && role !== 'owner') error(403, 'Only an owner of this tank may do that.');
}

/** Refuses (403) a token that may only read. */
export function mayWrite(asker: Asker): void {
	if (asker.token && !asker.token.writes) error(403, 'This token may only read.');
}

/** Refuses (403) any token, whatever it may: for what a person does with their own account. */
export function mustBePerson(asker: Asker): void {
	if (asker.token) error(403, 'A token cannot do this; sign in.');
}

/** Refuses (403) whoever does not run this server. */
export async function mustOperate(asker: Asker): Promise<void> {
	mustBePerson(asker);
	const [found] = await database()
		.select({ operator: user.operator })
		.from(user)
		.where(eq(user.id, asker.userId));
	if (!found?.operator) error(403, 'Only whoever runs this server may do that.');
}
