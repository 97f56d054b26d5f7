import { v5 as uuidV5 } from 'uuid';
import { SHIPPED_METHODS, read } from '../../../core/methods';
import { demoUpTo, type DemoSystem } from '../../../core/simulate';
import { readingRow, revisionRow } from '../stores/readings';
import type { Asker } from '../identity/asker';
import { now } from '../clock';
import { database, transaction, type Connection } from '../db/connection';
import {
	account,
	band,
	event,
	membership,
	pack,
	reading,
	revision,
	sample,
	source,
	system,
	user
} from '../db/schema';
import { DEMO_EMAIL, DEMO_PASSWORD } from './keeper';
import { methodsFor } from '../stores/methods';
import { hashed } from '../identity/password';
import { derivedSecret } from '../identity/secret';

/** Ids follow from names: the demo is the same everywhere. */
const NAMESPACE = '0a6f1e0e-8a3b-5d8f-8f0e-2f6a1f6b7c11';
const idOf = (...names: string[]) => uuidV5(names.join('/'), NAMESPACE);

/** Whether no tank is kept here yet. */
export async function isEmpty(): Promise<boolean> {
	return (await database().select({ id: system.id }).from(system).limit(1)).length === 0;
}

/** Puts the demo into an empty database, up to this moment, as a person's own or its own keeper's. */
export async function loadDemo(owner?: Asker): Promise<void> {
	const demo = demoUpTo(now());
	const userId = owner?.userId ?? idOf(demo.keeper);
	const password = owner ? undefined : await hashed(derivedSecret(DEMO_PASSWORD));
	const methods = await methodsFor({ userId });
	const versionIds = new Map(methods.map((m) => [m.profile.id, m.versionId]));
	await transaction(async (db) => {
		if (password) {
			const made = { createdAt: now(), updatedAt: now() };
			await db
				.insert(user)
				.values({ id: userId, name: demo.keeper, email: DEMO_EMAIL, operator: true, ...made });
			await db.insert(account).values({
				id: idOf('account'),
				userId,
				accountId: userId,
				providerId: 'credential',
				password,
				...made
			});
		}
		for (const [i, tank] of demo.systems.entries()) {
			const systemId = idOf('system', tank.name);
			await db.insert(system).values({
				id: systemId,
				name: tank.name,
				netVolumeL: tank.netVolumeL,
				phase: tank.phase,
				timeZone: demo.timeZone,
				school: tank.school,
				createdAt: new Date(now().getTime() + i)
			});
			await db.insert(membership).values({ userId, systemId, role: 'owner' });
			await loadSystem(db, tank, systemId, userId, versionIds);
		}
		const day = (at: Date) => at.toISOString().slice(0, 10);
		await db.insert(pack).values(
			demo.packs.map((p) => {
				const { pack: bought } = SHIPPED_METHODS.find((m) => m.id === p.method)!;
				return {
					id: idOf('pack', p.label),
					ownerId: userId,
					methodId: methods.find((m) => m.profile.id === p.method)!.id,
					label: p.label,
					batch: p.batch,
					opened: day(p.opened),
					bestBefore: day(p.bestBefore),
					tests: bought!.tests,
					price: bought!.price,
					finished: false
				};
			})
		);
	});
}

async function loadSystem(
	db: Connection,
	tank: DemoSystem,
	systemId: string,
	userId: string,
	versionIds: Map<string, string>
): Promise<void> {
	const sources = tank.sources.map((s) => ({ ...s, id: idOf('source', systemId, s.name), systemId }));
	await db.insert(source).values(sources);
	await db
		.insert(band)
		.values(Object.entries(tank.bands).map(([parameter, edges]) => ({ systemId, parameter, ...edges })));
	if (tank.events.length)
		await db.insert(event).values(
			tank.events.map(({ at, ...body }, i) => ({
				id: idOf('event', systemId, at, String(i)),
				systemId,
				at: new Date(at),
				body,
				byUserId: userId,
				createdAt: new Date(at),
				voided: false
			}))
		);
	const rows = tank.readings.map((r) => {
		const method = SHIPPED_METHODS.find((m) => m.id === r.method)!;
		const result = read({ method, reading: r.reading });
		if (!result.ok) throw new Error(`demo reading refused: ${JSON.stringify(result.problems)}`);
		const id = idOf('reading', systemId, r.method, r.at.toISOString());
		const sampleId = idOf('sample', id);
		return {
			sample: { id: sampleId, sourceId: sources[0]!.id, takenAt: r.at },
			reading: readingRow({
				id,
				systemId,
				sampleId,
				sourceId: sources[0]!.id,
				parameter: method.parameter,
				takenAt: r.at
			}),
			revision: revisionRow(method.parameter, {
				readingId: id,
				revision: 1,
				byUserId: userId,
				at: r.at,
				methodVersionId: versionIds.get(r.method)!,
				raw: r.reading,
				result: result.value
			})
		};
	});
	if (!rows.length) return;
	await db.insert(sample).values(rows.map((r) => r.sample));
	await db.insert(reading).values(rows.map((r) => r.reading));
	await db.insert(revision).values(rows.map((r) => r.revision));
}
