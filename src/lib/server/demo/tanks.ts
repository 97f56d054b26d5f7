import { tagged } from '../../../core/instruments';
import { DAY } from '../../../core/base';
import { v5 as uuidV5 } from 'uuid';
import { compositionOf, type Supplement } from '../../../core/adjust';
import { SHIPPED_METHODS, isKnownValue, read, withOwnChart } from '../../../core/methods';
import type { ReferenceContent } from '../../../core/quality';
import { demoUpTo, type DemoSystem } from '../../../core/simulate';
import type { WaterEvent } from '../../../core/trend';
import type { WaterChange } from '../../../core/tank';
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
	supplement,
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
/** What the label of the demo's reference says, right within 1.5 %. */
const REFERENCE: ReferenceContent = {
	values: {
		alkalinity: { value: 8, standardUncertainty: 0.06 },
		calcium: { value: 420, standardUncertainty: 3.2 },
		magnesium: { value: 1310, standardUncertainty: 10 }
	}
};

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
		await stockBottles(db, userId);
		for (const [i, tank] of demo.systems.entries()) {
			const systemId = idOf('system', tank.name);
			await db.insert(system).values({
				id: systemId,
				name: tank.name,
				netVolumeL: tank.netVolumeL,
				phase: tank.phase,
				timeZone: demo.timeZone,
				school: tank.school,
				waterChange: waterChangeOf(tank),
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
async function stockShelf(
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

/** What the demo's keeper pours: home-made solutions, a bag of salt with its spoon, a bottle by its label. */
const BOTTLES: (Omit<Supplement, 'format' | 'id'> & { of: string; amount: number; daysAgo: number })[] = [
	{
		of: 'alkalinity',
		name: 'Carbonate solution',
		kind: 'solution',
		composition: { recipe: { salt: 'Na2CO3', gramsPerL: 100 } },
		pricePerUnit: 0.001,
		amount: 5000,
		daysAgo: 21
	},
	{
		of: 'calcium',
		name: 'Calcium solution',
		kind: 'solution',
		composition: { recipe: { salt: 'CaCl2.2H2O', gramsPerL: 150, purity: 1 } },
		pricePerUnit: 0.001,
		amount: 5000,
		daysAgo: 21
	},
	{
		of: 'magnesium',
		name: 'Magnesium salt',
		kind: 'powder',
		composition: { recipe: { salt: 'MgCl2.6H2O', purity: 0.99 } },
		spoonG: 14,
		pricePerUnit: 0.004,
		amount: 2000,
		daysAgo: 200
	},
	{
		of: 'potassium',
		name: 'Potassium bottle',
		kind: 'solution',
		composition: {
			label: {
				amount: 1,
				unit: 'mL',
				waterL: 100,
				raises: { parameter: 'potassium', value: 1, unit: 'mg/L' }
			}
		},
		pricePerUnit: 0.05,
		amount: 250,
		daysAgo: 90
	}
];
const bottleId = (userId: string, of: string) => idOf('bottle', userId, of);
const profileOf = (userId: string, bottle: (typeof BOTTLES)[number]): Supplement => {
	const { of, amount: _amount, daysAgo: _daysAgo, ...profile } = bottle;
	return { format: 'tevrik.supplement/1', id: bottleId(userId, of), ...profile };
};

async function stockBottles(db: Connection, userId: string): Promise<void> {
	await db.insert(supplement).values(
		BOTTLES.map((bottle) => ({
			id: bottleId(userId, bottle.of),
			ownerId: userId,
			profile: profileOf(userId, bottle),
			amount: bottle.amount,
			opened: new Date(now().getTime() - bottle.daysAgo * DAY).toISOString().slice(0, 10),
			finished: false
		}))
	);
}

/** A dosing pump's event with the bottle it takes from, and how much of it that is. */
function byBottle(body: WaterEvent, litres: number, userId: string): WaterEvent {
	const bottle = body.kind === 'dosing' && BOTTLES.find((b) => b.of === body.parameter);
	if (body.kind !== 'dosing' || !bottle) return body;
	const brings = compositionOf(profileOf(userId, bottle));
	const perMl = brings.ok ? (brings.value.raises[body.parameter] ?? NaN) / litres : NaN;
	return {
		...body,
		supplement: bottle.name,
		supplementId: bottleId(userId, bottle.of),
		mlPerDay: Math.round((10 * body.perDay) / perMl) / 10
	};
}

/** The water this tank was changed with last, a fifth at most and once a week. */
function waterChangeOf({ events }: DemoSystem): WaterChange | null {
	const last = events.filter((e) => e.kind === 'water-change').at(-1);
	return last
		? {
				water: { ...last.newWater, salinity: 35, nitrate: 0, phosphate: 0 },
				largestFraction: 0.2,
				everyDays: 7,
				costPerL: 0.12
			}
		: null;
}

async function loadSystem(
	db: Connection,
	tank: DemoSystem,
	systemId: string,
	userId: string,
	kits: Map<string, { versionId: string }>
): Promise<void> {
	const sources = tank.sources.map((s) => ({
		...s,
		id: idOf('source', systemId, s.name),
		systemId,
		content: s.kind === 'reference' ? REFERENCE : null
	}));
	await db.insert(source).values(sources);
	await db
		.insert(band)
		.values(Object.entries(tank.bands).map(([parameter, limits]) => ({ systemId, parameter, ...limits })));
	if (tank.events.length)
		await db.insert(event).values(
			tank.events.map(({ at, ...body }, i) => ({
				id: idOf('event', systemId, at, String(i)),
				systemId,
				at: new Date(at),
				body: byBottle(body, tank.netVolumeL, userId),
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
				raw: tagged(method, r.reading),
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
