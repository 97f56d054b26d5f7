import { asc, eq, sql } from 'drizzle-orm';
import { unionAll } from 'drizzle-orm/mysql-core';
import { MINUTE, type Outcome } from '../../../core/base';
import type { Role, Tank } from '../../api/systems';
import { now } from '../clock';
import { database, inTransaction, transaction, type Connection, type Database } from '../db/connection';
import { membership, stamp, system, user } from '../db/schema';
import { touch } from '../db/stamps';
import { remembered } from '../memory';
import { refuse } from '../refuse';

/** Who asks. Every store function takes one and refuses what is not theirs. */
export interface Asker {
	userId: string;
	/** A program asks for that person: only these systems (null: all of theirs), and perhaps only to read. */
	token?: { systems: string[] | null; writes: boolean };
}

/** What each asker was found to have. An asker lives for one request; what it writes is looked up again. */
const found = new WeakMap<Asker, Promise<Standing>>();
/** Where an asker stands now: what everything that is remembered of theirs is held against. */
export interface Standing {
	/** Another after every write to what is the person's own, the end of a session among them; nothing where there is no such person. */
	stamp: number | undefined;
	/** By tank, what the asker is in it, and its stamp: another after every write to it. A token has only those it names. */
	tanks: Map<string, { role: Role; stamp: number }>;
}

/** The asker's standing: one question to the database, whatever a request goes on to ask. */
export function standing(asker: Asker): Promise<Standing> {
	const known = found.get(asker) ?? look(asker);
	found.set(asker, known);
	return known;
}

/** After a write of the asker's: the next question is asked anew. */
export const forget = (asker: Asker): void => void found.delete(asker);

/** A question, built once for each connection: building it costs more than asking it. */
function built<T>(build: (db: Database) => T): (db: Database) => T {
	const known = new WeakMap<Database, T>();
	return (db) => {
		const question = known.get(db) ?? build(db);
		known.set(db, question);
		return question;
	};
}
const value = sql<number>`coalesce(${stamp.value}, 0)`.mapWith(Number);
/** The person first, then their tanks. Nothing else in it: every request asks this. */
const standingOf = built((db) =>
	unionAll(
		db
			.select({ id: user.id, role: sql<Role | ''>`''`, value })
			.from(user)
			.leftJoin(stamp, eq(stamp.id, user.id))
			.where(eq(user.id, sql.placeholder('userId'))),
		db
			.select({ id: membership.systemId, role: sql<Role | ''>`${membership.role}`, value })
			.from(membership)
			.leftJoin(stamp, eq(stamp.id, membership.systemId))
			.where(eq(membership.userId, sql.placeholder('userId')))
	).prepare()
);
const tanksOf = built((db) =>
	db
		.select({
			id: system.id,
			name: system.name,
			timeZone: system.timeZone,
			netVolumeL: system.netVolumeL,
			phase: system.phase,
			school: system.school,
			salinityPsu: system.salinityPsu,
			sizes: system.sizes,
			netVolumeError: system.netVolumeError,
			waterChange: system.waterChange,
			role: membership.role
		})
		.from(membership)
		.innerJoin(system, eq(system.id, membership.systemId))
		.where(eq(membership.userId, sql.placeholder('userId')))
		.orderBy(asc(system.createdAt), asc(system.id))
		.prepare()
);

async function look({ userId, token }: Asker): Promise<Standing> {
	const rows = await standingOf(database()).execute({ userId });
	const tanks = new Map<string, { role: Role; stamp: number }>();
	let own: number | undefined;
	for (const { id, role, value } of rows)
		if (role === '') own = value;
		else if (!token?.systems || token.systems.includes(id)) tanks.set(id, { role, stamp: value });
	return { stamp: own, tanks };
}

/** The asker's tanks, in the order they were made. */
export async function mine(asker: Asker): Promise<Map<string, Tank>> {
	const { tanks } = await standing(asker);
	const roles = [...tanks].map(([id, { role }]) => [id, role]);
	const all = await ofPerson(asker, ['tanks', roles], () =>
		tanksOf(database()).execute({ userId: asker.userId })
	);
	return new Map(all.filter((t) => tanks.has(t.id)).map((t) => [t.id, t]));
}

/** What the asker is in a tank; undefined where it is not theirs, or not for their token. */
export const roleOf = async (asker: Asker, systemId: string): Promise<Role | undefined> =>
	(await standing(asker)).tanks.get(systemId)?.role;

/** The tanks an asker may write to. */
export const tanksToWrite = async (asker: Asker): Promise<string[]> =>
	[...(await standing(asker)).tanks].flatMap(([id, { role }]) => (role === 'viewer' ? [] : [id]));

/**
 * A write to a tank (or to what is a person's, by their id), all of it or nothing; every process then knows that what it
 * remembers of it is of before.
 */
export async function writing<T>(
	asker: Asker,
	of: string | string[],
	work: (db: Connection) => Promise<T>
): Promise<T> {
	try {
		return await transaction(async (db) => {
			const done = await work(db);
			// What was refused has written nothing.
			if (!isRefused(done)) await touch(db, [of].flat());
			return done;
		});
	} finally {
		forget(asker);
	}
}

const isRefused = (done: unknown): boolean => (done as Outcome<unknown> | null | undefined)?.ok === false;

/** How a result that goes by the clock is remembered: for so long at most, ms. */
export const SHORTLY = 10 * MINUTE;

/**
 * What follows from all that is kept of a tank, remembered until something is written there. `what` names it with all that it was
 * asked with; `every`: it also goes by the clock, and is made anew after so long, ms.
 */
export async function ofTank<T>(
	asker: Asker,
	systemId: string,
	what: unknown[],
	make: () => Promise<T>,
	every?: number
): Promise<T> {
	const tank = (await standing(asker)).tanks.get(systemId);
	if (!tank) refuse(404, NOT_YOURS);
	if (inTransaction()) return make();
	return remembered(`${systemId} ${tank.stamp} ${JSON.stringify(what)}${bucket(every)}`, make);
}

/** The same of what follows from everything a person may see: their own things and all of their tanks. */
export async function ofPerson<T>(
	asker: Asker,
	what: unknown[],
	make: () => Promise<T>,
	every?: number
): Promise<T> {
	const { tanks, stamp: own } = await standing(asker);
	if (inTransaction()) return make();
	const stamps = [own, ...[...tanks.values()].map((t) => t.stamp)].join(' ');
	return remembered(`${asker.userId} ${stamps} ${JSON.stringify(what)}${bucket(every)}`, make);
}

const bucket = (every: number | undefined): string =>
	every === undefined ? '' : ` ${Math.floor(now().getTime() / every)}`;

const NOT_YOURS = 'There is no such tank, or it is not yours.';

/**
 * Refuses (404, as if it were not there) a system the asker is no member of, and (403) a write by a viewer or a reading
 * token, and what only an owner may do.
 */
export async function mayUse(
	asker: Asker,
	systemId: string,
	access: 'read' | 'write' | 'own'
): Promise<void> {
	const role = await roleOf(asker, systemId);
	if (!role) refuse(404, NOT_YOURS);
	if (access === 'read') return;
	mayWrite(asker);
	if (role === 'viewer') refuse(403, 'You may look at this tank but not change it.');
	if (access === 'own' && role !== 'owner') refuse(403, 'Only an owner of this tank may do that.');
}

/** Refuses (403) a token that may only read. */
export function mayWrite(asker: Asker): void {
	if (asker.token && !asker.token.writes) refuse(403, 'This token may only read.');
}

/** Refuses (403) whoever may make nothing new: a token that only reads, or one that is for certain tanks and nothing beside. */
export function mayMake(asker: Asker): void {
	mayWrite(asker);
	if (asker.token?.systems) refuse(403, 'This token is for the tanks it names and nothing beside them.');
}

/** Refuses (403) any token, whatever it may: for what a person does with their own account. */
export function mustBePerson(asker: Asker): void {
	if (asker.token) refuse(403, 'A token cannot do this; sign in.');
}

/** Refuses (403) whoever does not run this server. */
export async function mustOperate(asker: Asker): Promise<void> {
	mustBePerson(asker);
	const [found] = await database()
		.select({ operator: user.operator })
		.from(user)
		.where(eq(user.id, asker.userId));
	if (!found?.operator) refuse(403, 'Only whoever runs this server may do that.');
}
