import { and, asc, eq } from 'drizzle-orm';
import { v7 as uuid } from 'uuid';
import { bad, badAll, good, type Outcome, type Problem } from '../../../core/base';
import { parameterOf } from '../../../core/catalogue';
import { ownBands, targets } from '../../../core/targets';
import type { ChangeSystem, NewSystem, SaveSource, Source, TankInFull } from '../../api/systems';
import { mayMake, mayUse, mine, ofTank, roleOf, standing, writing, type Asker } from '../identity/asker';
import { now } from '../clock';
import { DUPLICATE, database, errnoOf } from '../db/connection';
import { band, membership, source, system } from '../db/schema';
import { refuse } from '../refuse';

/** The asker's tanks, in the order they were made. */
export const systemsOf = async (asker: Asker) => [...(await mine(asker)).values()];

/** What is said of a tank itself. */
export async function systemFor(asker: Asker, systemId: string) {
	await mayUse(asker, systemId, 'read');
	const { name, phase, school, timeZone } = (await mine(asker)).get(systemId)!;
	return { name, phase, school, timeZone };
}

/** All that is said of one tank: with its bands and waters. */
export async function systemInFull(asker: Asker, systemId: string): Promise<TankInFull> {
	await mayUse(asker, systemId, 'read');
	const [bands, sources, mine] = await Promise.all([
		bandsOf(asker, systemId),
		sourcesOf(asker, systemId),
		systemsOf(asker)
	]);
	return { ...mine.find((s) => s.id === systemId)!, bands, sources };
}

/** Where this tank's samples come from, the tank itself first. */
export async function sourcesOf(asker: Asker, systemId: string): Promise<Source[]> {
	await mayUse(asker, systemId, 'read');
	return ofTank(asker, systemId, ['sources'], async () => {
		const rows = await database()
			.select({ id: source.id, kind: source.kind, name: source.name, content: source.content })
			.from(source)
			.where(eq(source.systemId, systemId))
			.orderBy(asc(source.name));
		return rows.sort((a, b) => Number(b.kind === 'tank') - Number(a.kind === 'tank'));
	});
}

/**
 * The band of each parameter, in the parameter's own unit: the keeper's own where there is one, otherwise what their school has
 * for the tank's phase.
 */
export async function bandsOf(
	asker: Asker,
	systemId: string
): Promise<Record<string, { lower: number; upper: number }>> {
	const tank = await systemFor(asker, systemId);
	const rows = await ofTank(asker, systemId, ['bands'], () =>
		database().select().from(band).where(eq(band.systemId, systemId))
	);
	const held = Object.fromEntries(rows.map((r) => [r.parameter, { lower: r.lower, upper: r.upper }]));
	if (tank.school === OWN_BANDS) return held;
	const own = ownBands(tank.school, held);
	const chosen = targets({ school: tank.school, phase: tank.phase, own });
	if (!chosen.ok) return held;
	return Object.fromEntries(
		Object.entries(chosen.value.targets).map(([parameter, { lower, upper }]) => [parameter, { lower, upper }])
	);
}

/** The school of a keeper who follows none: nothing but their own bands counts. */
export const OWN_BANDS = 'own';

/** Tanks one account owns: a technician looks after two hundred. */
export const MOST_TANKS = 300;
/** A problem where the asker has as many tanks as one account holds. */
export async function tooManyTanks(asker: Asker): Promise<Outcome<never> | undefined> {
	const owned = [...(await standing(asker)).tanks.values()].filter((t) => t.role === 'owner').length;
	return owned < MOST_TANKS
		? undefined
		: bad('', `You have ${MOST_TANKS} tanks, as many as one account holds. More need another account.`);
}

/** Makes a tank of the asker's with itself as its first water. Sending it again changes nothing. */
export async function createSystem(asker: Asker, sent: NewSystem): Promise<Outcome<{ id: string }>> {
	mayMake(asker);
	if (!(sent.alkalinity.lower < sent.alkalinity.upper))
		return bad('/alkalinity', 'must have its lower limit below its upper limit');
	if (!isTimeZone(sent.timeZone))
		return bad('/timeZone', 'is not a time zone; write for example Europe/Dublin');
	const { id, name, netVolumeL, timeZone } = sent;
	if (!(await roleOf(asker, id))) {
		const many = await tooManyTanks(asker);
		if (many) return many;
	}
	const phase = sent.phase ?? 'settled';
	const school = sent.school ?? OWN_BANDS;
	// The school's bands go with the phase and are not written down.
	const own = Object.entries(ownBands(school, { alkalinity: sent.alkalinity }));
	try {
		await writing(asker, id, async (db) => {
			await db.insert(system).values({
				id,
				name,
				netVolumeL,
				timeZone,
				phase,
				school,
				createdAt: now()
			});
			await db.insert(membership).values({ userId: asker.userId, systemId: id, role: 'owner' });
			await db.insert(source).values({ id: uuid(), systemId: id, kind: 'tank', name });
			if (own.length)
				await db
					.insert(band)
					.values(own.map(([parameter, limits]) => ({ systemId: id, parameter, ...limits })));
		});
	} catch (failure) {
		if (errnoOf(failure) !== DUPLICATE) throw failure;
		await mayUse(asker, id, 'own');
	}
	return good({ id });
}

/** Changes what is said about a tank; what is left out stays. Problems: no such time zone, a band the wrong way round. */
export async function changeSystem(asker: Asker, id: string, sent: ChangeSystem): Promise<Outcome<null>> {
	await mayUse(asker, id, 'write');
	const { bands = {}, ...about } = sent;
	const problems: Problem[] = [];
	if (about.timeZone !== undefined && !isTimeZone(about.timeZone))
		problems.push({ path: '/timeZone', message: 'is not a time zone; write for example Europe/Dublin' });
	for (const [parameter, limits] of Object.entries(bands))
		if (limits && !(limits.lower < limits.upper))
			problems.push({
				path: `/bands/${parameter}`,
				message: 'must have its lower limit below its upper limit'
			});
		else if (!parameterOf(parameter))
			problems.push({ path: `/bands/${parameter}`, message: 'is not a parameter known here' });
	if (problems.length) return badAll(problems);
	await writing(asker, id, async (db) => {
		if (Object.keys(about).length) await db.update(system).set(about).where(eq(system.id, id));
		const [tank] = await db.select({ school: system.school }).from(system).where(eq(system.id, id));
		const given = Object.fromEntries(
			Object.entries(bands).filter((b): b is [string, NonNullable<(typeof b)[1]>] => !!b[1])
		);
		const own = ownBands(tank?.school ?? OWN_BANDS, given);
		for (const parameter of Object.keys(bands)) {
			const limits = own[parameter];
			// What the school has anyway is not written down: it goes with the phase.
			if (limits)
				await db
					.insert(band)
					.values({ systemId: id, parameter, ...limits })
					.onDuplicateKeyUpdate({ set: limits });
			else await db.delete(band).where(and(eq(band.systemId, id), eq(band.parameter, parameter)));
		}
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
	await mayUse(asker, sent.systemId, 'write');
	const [held] = await db.select().from(source).where(eq(source.id, id));
	if (held && held.systemId !== sent.systemId) refuse(409, 'This id is in use.');
	if (held?.kind === 'tank') return bad('', 'is the tank itself; rename the tank instead');
	const { systemId, kind, name, content } = sent;
	if (content && kind !== 'reference') return bad('/content', 'is for references: water of known content');
	const values = { kind, name, ...(content === undefined ? {} : { content }) };
	await writing(asker, systemId, (tx) =>
		tx
			.insert(source)
			.values({ id, systemId, ...values })
			.onDuplicateKeyUpdate({ set: values })
	);
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
