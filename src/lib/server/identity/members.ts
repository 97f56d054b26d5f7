import { and, asc, eq, gt, isNull } from 'drizzle-orm';
import { v7 as uuid } from 'uuid';
import { DAY, bad, good, type Outcome } from '../../../core/base';
import { mayUse, mustBePerson, roleOf, writing, type Asker } from './asker';
import type { Role } from '../../api/systems';
import { now } from '../clock';
import { database } from '../db/connection';
import { invitation, membership, system, user } from '../db/schema';
import { newToken, tokenHash } from './secret';
import { refuse } from '../refuse';

/** A link lets in for a week, ms. */
const INVITED_FOR = 7 * DAY;

/** Who is a member of a tank; addresses only for its owners. */
export async function membersOf(asker: Asker, systemId: string) {
	const db = database();
	await mayUse(asker, systemId, 'read');
	const own = (await roleOf(asker, systemId)) === 'owner';
	const rows = await db
		.select({ id: user.id, name: user.name, email: user.email, role: membership.role })
		.from(membership)
		.innerJoin(user, eq(user.id, membership.userId))
		.where(eq(membership.systemId, systemId))
		.orderBy(asc(user.name));
	return rows.map(({ email, ...r }) => ({ ...r, you: r.id === asker.userId, ...(own ? { email } : {}) }));
}

/**
 * Makes a member an owner, keeper or viewer, or (null) no member. Owners do that; everyone may leave. Problems: the last
 * owner would go.
 */
export async function setMember(
	asker: Asker,
	systemId: string,
	userId: string,
	role: Role | null
): Promise<Outcome<null>> {
	const leaves = role === null && userId === asker.userId;
	mustBePerson(asker);
	await mayUse(asker, systemId, leaves ? 'read' : 'own');
	return writing(asker, systemId, async (db) => {
		const members = await db.select().from(membership).where(eq(membership.systemId, systemId)).for('update');
		const member = members.find((m) => m.userId === userId);
		if (!member) return bad('', 'is no member of this tank');
		const owners = members.filter((m) => m.role === 'owner' && m.userId !== userId).length;
		if (member.role === 'owner' && role !== 'owner' && !owners)
			return bad('', 'A tank needs an owner: make somebody else one first.');
		const row = and(eq(membership.systemId, systemId), eq(membership.userId, userId));
		if (role) await db.update(membership).set({ role }).where(row);
		else await db.delete(membership).where(row);
		return good(null);
	});
}

/** A link that lets one more person in, once, within a week. Its secret is shown now and never again. */
export async function invite(
	asker: Asker,
	systemId: string,
	role: 'keeper' | 'viewer'
): Promise<{ id: string; token: string; expiresAt: Date }> {
	const db = database();
	mustBePerson(asker);
	await mayUse(asker, systemId, 'own');
	const { token, hash } = newToken('');
	const id = uuid();
	const expiresAt = new Date(now().getTime() + INVITED_FOR);
	await db
		.insert(invitation)
		.values({ id, systemId, role, hash, byUserId: asker.userId, createdAt: now(), expiresAt });
	return { id, token, expiresAt };
}

const open = () => and(isNull(invitation.usedByUserId), gt(invitation.expiresAt, now()));

/** Links of a tank that still let somebody in. */
export async function invitationsOf(asker: Asker, systemId: string) {
	const db = database();
	mustBePerson(asker);
	await mayUse(asker, systemId, 'own');
	return db
		.select({ id: invitation.id, role: invitation.role, expiresAt: invitation.expiresAt })
		.from(invitation)
		.where(and(eq(invitation.systemId, systemId), open()))
		.orderBy(asc(invitation.expiresAt));
}

export async function withdrawInvitation(asker: Asker, systemId: string, id: string): Promise<void> {
	const db = database();
	mustBePerson(asker);
	await mayUse(asker, systemId, 'own');
	await db
		.delete(invitation)
		.where(and(eq(invitation.id, id), eq(invitation.systemId, systemId), isNull(invitation.usedByUserId)));
}

/** What a link is for, or nothing where it was used, withdrawn or is too old. */
export async function invitationBehind(token: string) {
	const [found] = await database()
		.select({ system: system.name, role: invitation.role, by: user.name })
		.from(invitation)
		.innerJoin(system, eq(system.id, invitation.systemId))
		.innerJoin(user, eq(user.id, invitation.byUserId))
		.where(and(eq(invitation.hash, tokenHash(token)), open()));
	return found;
}

/** Uses a link: the asker becomes a member. Whoever is one already stays what they are, and the link stays good. */
export function acceptInvitation(asker: Asker, token: string): Promise<{ systemId: string }> {
	mustBePerson(asker);
	return writing(asker, [], async (db) => {
		const [held] = await db
			.select()
			.from(invitation)
			.where(and(eq(invitation.hash, tokenHash(token)), open()))
			.for('update');
		if (!held) refuse(404, 'This invitation was used, withdrawn, or has run out. Ask for a new link.');
		const { systemId, role } = held;
		const [member] = await db
			.select()
			.from(membership)
			.where(and(eq(membership.systemId, systemId), eq(membership.userId, asker.userId)));
		if (member) return { systemId };
		await db.insert(membership).values({ userId: asker.userId, systemId, role });
		await db.update(invitation).set({ usedByUserId: asker.userId }).where(eq(invitation.id, held.id));
		return { systemId };
	});
}
