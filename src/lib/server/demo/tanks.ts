import { v5 as uuidV5 } from 'uuid';
import { SHIPPED_METHODS, isKnownValue, read, withOwnChart } from '../../../core/methods';
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
	method,
	methodVersion,
	pack,
	reading,
	revision,
	sample,
	source,
	system,
	user
} from '../db/schema';
import { DEMO_EMAIL, DEMO_PASSWORD } from './keeper';
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
		const kits = await stockShelf(db, userId);
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
			await loadSystem(db, tank, systemId, userId, kits);
		}
		const day = (at: Date) => at.toISOString().slice(0, 10);
		await db.insert(pack).values(
			demo.packs.map((p) => {
				const { pack: bought } = SHIPPED_METHODS.find((m) => m.id === p.method)!;
				return {
					id: idOf('pack', p.label),
					ownerId: userId,
					methodId: kits.get(p.method)!.id,
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

/**
 * The demo's kits: what ships as templates, as if each had been fitted by its leaflet. By the template's name, the kit's id and its
 * version's.
 */
export async function stockShelf(
	db: Connection,
	userId: string
): Promise<Map<string, { id: string; versionId: string }>> {
	const kits = SHIPPED_METHODS.filter((m) => !isKnownValue(m)).map((m) => ({
		id: idOf('kit', userId, m.id),
		versionId: idOf('kit version', userId, m.id),
		profile: withOwnChart(m)
	}));
	await db
		.insert(method)
		.values(kits.map((k) => ({ ...k, ownerId: userId, slug: k.profile.id, parameter: k.profile.parameter })));
	await db.insert(methodVersion).values(
		kits.map(({ id, versionId, profile }) => ({
			id: versionId,
			methodId: id,
			version: 1,
			name: profile.name,
			profile,
			createdAt: now()
		}))
	);
	return new Map(kits.map((k) => [k.profile.id, k]));
}

async function loadSystem(
	db: Connection,
	tank: DemoSystem,
	systemId: string,
	userId: string,
	kits: Map<string, { versionId: string }>
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
				methodVersionId: kits.get(r.method)!.versionId,
				raw: r.reading,
				result: result.value,
				ownChart: true
			})
		};
	});
	if (!rows.length) return;
	await db.insert(sample).values(rows.map((r) => r.sample));
	await db.insert(reading).values(rows.map((r) => r.reading));
	await db.insert(revision).values(rows.map((r) => r.revision));
}
