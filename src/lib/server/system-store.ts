import { error } from '@sveltejs/kit';
import { and, asc, eq } from 'drizzle-orm';
import { v7 as uuid } from 'uuid';
import { bad, badAll, good, type Outcome, type Problem } from '../../core/problems';
import { parameterOf } from '../../core/quantities';
import { targets } from '../../core/targets';
import type { ChangeSystem, NewSystem, SaveSource } from '../api/systems';
import { mayUse, mayWrite, type Asker } from './asker';
import { now } from './clock';
import { DUPLICATE, database, errnoOf } from './db/connection';
import { band, membership, source, system } from './db/schema';

/** The asker's tanks, in the order they were made. */
export async function systemsOf(asker: Asker) {
	const all = await database()
		.select({
			id: system.id,
			name: system.name,
			timeZone: system.timeZone,
			netVolumeL: system.netVolumeL,
			phase: system.phase,
			school: system.school,
			salinityPsu: system.salinityPsu,
			sizes: system.sizes,
			role: membership.role
		})
		.from(system)
		.innerJoin(membership, eq(membership.systemId, system.id))
		.where(eq(membership.userId, asker.userId))
		.orderBy(asc(system.createdAt), asc(system.id));
	const scope = asker.token?.systems;
	return scope ? all.filter((s) => scope.includes(s.id)) : all;
}

/** What a tank is judged by. */
export async function systemFor(asker: Asker, systemId: string) {
	const db = database();
	await mayUse(db, asker, systemId, 'read');
	const [found] = await db
		.select({ name: system.name, phase: system.phase, school: system.school, timeZone: system.timeZone })
		.from(system)
		.where(eq(system.id, systemId));
	return found!;
}

/** All that is said of one tank: with its bands and waters. */
export async function systemInFull(asker: Asker, systemId: string) {
	await mayUse(database(), asker, systemId, 'read');
	const [bands, sources, mine] = await Promise.all([
		bandsOf(asker, systemId),
		sourcesOf(asker, systemId),
		systemsOf(asker)
	]);
	return { ...mine.find((s) => s.id === systemId)!, bands, sources };
}

/** Where this tank's samples come from, the tank itself first. */
export async function sourcesOf(asker: Asker, systemId: string) {
	const db = database();
	await mayUse(db, asker, systemId, 'read');
	const rows = await db
		.select({ id: source.id, kind: source.kind, name: source.name })
		.from(source)
		.where(eq(source.systemId, systemId))
		.orderBy(asc(source.name));
	return rows.sort((a, b) => Number(b.kind === 'tank') - Number(a.kind === 'tank'));
}

/** The keeper's band of each parameter, in the parameter's own unit. */
export async function bandsOf(
	asker: Asker,
	systemId: string
): Promise<Record<string, { lower: number; upper: number }>> {
	const db = database();
	await mayUse(db, asker, systemId, 'read');
	const rows = await db.select().from(band).where(eq(band.systemId, systemId));
	return Object.fromEntries(rows.map((r) => [r.parameter, { lower: r.lower, upper: r.upper }]));
}

/** The school of a keeper who follows none: nothing but their own bands counts. */
export const OWN_BANDS = 'own';

/** Makes a tank of the asker's with itself as its first water. Sending it again changes nothing. */
export async function createSystem(asker: Asker, sent: NewSystem): Promise<Outcome<{ id: string }>> {
	mayWrite(asker);
	if (!(sent.alkalinity.lower < sent.alkalinity.upper))
		return bad('/alkalinity', 'must have its lower edge below its upper edge');
	if (!isTimeZone(sent.timeZone))
		return bad('/timeZone', 'is not a time zone; write for example Europe/Dublin');
	const { id, name, netVolumeL, timeZone } = sent;
	const phase = sent.phase ?? 'settled';
	const chosen = sent.school
		? targets({ school: sent.school, phase, own: { alkalinity: sent.alkalinity } })
		: undefined;
	const bands = chosen?.ok ? chosen.value.targets : { alkalinity: sent.alkalinity };
	try {
		await database().transaction(async (db) => {
			await db.insert(system).values({
				id,
				name,
				netVolumeL,
				timeZone,
				phase,
				school: sent.school ?? OWN_BANDS,
				createdAt: now()
			});
			await db.insert(membership).values({ userId: asker.userId, systemId: id, role: 'owner' });
			await db.insert(source).values({ id: uuid(), systemId: id, kind: 'tank', name });
			await db.insert(band).values(
				Object.entries(bands).map(([parameter, { lower, upper }]) => ({
					systemId: id,
					parameter,
					lower,
					upper
				}))
			);
		});
	} catch (failure) {
		if (errnoOf(failure) !== DUPLICATE) throw failure;
		await mayUse(database(), asker, id, 'own');
	}
	return good({ id });
}

/** Changes what is said about a tank; what is left out stays. Problems: no such time zone, a band the wrong way round. */
export async function changeSystem(asker: Asker, id: string, sent: ChangeSystem): Promise<Outcome<null>> {
	await mayUse(database(), asker, id, 'write');
	const { bands = {}, ...about } = sent;
	const problems: Problem[] = [];
	if (about.timeZone !== undefined && !isTimeZone(about.timeZone))
		problems.push({ path: '/timeZone', message: 'is not a time zone; write for example Europe/Dublin' });
	for (const [parameter, edges] of Object.entries(bands))
		if (edges && !(edges.lower < edges.upper))
			problems.push({
				path: `/bands/${parameter}`,
				message: 'must have its lower edge below its upper edge'
			});
		else if (!parameterOf(parameter))
			problems.push({ path: `/bands/${parameter}`, message: 'is not a parameter known here' });
	if (problems.length) return badAll(problems);
	await database().transaction(async (db) => {
		if (Object.keys(about).length) await db.update(system).set(about).where(eq(system.id, id));
		for (const [parameter, edges] of Object.entries(bands))
			if (edges)
				await db
					.insert(band)
					.values({ systemId: id, parameter, ...edges })
					.onDuplicateKeyUpdate({ set: edges });
			else await db.delete(band).where(and(eq(band.systemId, id), eq(band.parameter, parameter)));
	});
	return good(null);
}

/** Keeps a water that is not the tank's own, or its new name. Sending it again changes nothing. */
export async function saveSource(
	asker: Asker,
	id: string,
	sent: SaveSource
): Promise<Outcome<{ id: string }>> {
	const db = database();
	await mayUse(db, asker, sent.systemId, 'write');
	const [held] = await db.select().from(source).where(eq(source.id, id));
	if (held && held.systemId !== sent.systemId) error(409, 'This id is in use.');
	if (held?.kind === 'tank') return bad('', 'is the tank itself; rename the tank instead');
	const { systemId, kind, name } = sent;
	await db.insert(source).values({ id, systemId, kind, name }).onDuplicateKeyUpdate({ set: { kind, name } });
	return good({ id });
}

export function isTimeZone(name: string): boolean {
	try {
		new Intl.DateTimeFormat('en', { timeZone: name });
		return true;
	} catch {
		return false;
	}
}
