import { rawAsTagged } from '../../db/joined';
import { and, eq, gt, inArray, isNotNull, isNull, or, sql, type SQL } from 'drizzle-orm';
import { type Method } from '../../../../core/instruments';
import {
	READING_VERSION,
	read,
	readingCounts,
	readingRequest,
	type Measured
} from '../../../../core/methods';
import { bad } from '../../../../core/base';
import type { ComputedAgain } from '../../../api/methods';
import { now } from '../../clock';
import { database, transaction, type Connection } from '../../db/connection';
import { writeRows } from '../../db/rows';
import { methodVersion, reading, revision } from '../../db/schema';
import { touch } from '../../db/stamps';
import type { Asker } from '../../identity/asker';
import { readings, revisionRow, toReading } from './rows';

const BY_LEAFLET = 'computed again by the chart of the leaflet';
const BY_VERSION = 'computed again: Tevrik has learnt to read it better';
const BY_OTHER = 'computed again: what it takes away was';
/** So many readings are written at once. */
const AT_ONCE = 500;

interface Charted {
	/** Versions of the kit whose chart was not its own, or wrong. */
	by: string[];
	/** Versions of the template it was made from: what the asker read by them. */
	byAsker: string[];
	/** Where the asker may write. */
	tanks: string[];
	/** The version with the chart, and what it says. */
	versionId: string;
	kit: Method;
}

/**
 * Computes readings again by a chart that has come: what was seen stays, another revision says what it means. What took one of them
 * away is computed again as well. In a transaction of the caller's.
 */
export async function computeAgain(db: Connection, asker: Asker, charted: Charted): Promise<ComputedAgain> {
	const { by, byAsker, tanks, versionId, kit } = charted;
	if (!tanks.length || !(by.length || byAsker.length)) return { readings: 0, refused: 0 };
	const versions = or(
		by.length ? inArray(revision.methodVersionId, by) : undefined,
		byAsker.length
			? and(inArray(revision.methodVersionId, byAsker), eq(revision.byUserId, asker.userId))
			: undefined
	)!;
	const read = await standing(db, and(versions, inArray(reading.systemId, tanks))!);
	const mine = { byUserId: asker.userId };
	const done = await revise(db, read, () => ({ kit, versionId, ...mine }), BY_LEAFLET);
	const changed = done.ids;
	for (let from = 0; from < changed.length; from += AT_ONCE) {
		const taken = await standing(
			db,
			and(
				inArray(revision.takenAwayId, changed.slice(from, from + AT_ONCE)),
				inArray(reading.systemId, tanks)
			)!
		);
		await revise(db, taken, (r) => ({ ...asBefore(r), ...mine }), BY_OTHER);
	}
	await touch(db, [...new Set(read.map((r) => r.systemId))]);
	return {
		readings: changed.length,
		refused: done.refused.length,
		...(done.refused[0] ? { why: done.refused[0] } : {})
	};
}

/** Names of all ways of calculating before this one. */
const EARLIER = Array.from(
	{ length: Number(READING_VERSION.split('/')[1]) - 1 },
	(_, i) => `reading/${i + 1}`
);

/**
 * Computes again what an earlier version computed: what was seen stays, another revision says what it means now. Where the numbers stay the
 * same there is none. It may be stopped anywhere and goes on at the next start. Gives how many have another revision.
 */
export async function bringReadingsUpToDate(): Promise<number> {
	let changed = 0;
	// What takes another away comes after what it takes away.
	for (const which of [isNull(revision.takenAwayId), isNotNull(revision.takenAwayId)])
		for (let after = ''; ;) {
			const due = await readings(database())
				.where(
					and(
						inArray(revision.calculation, EARLIER),
						eq(revision.voided, false),
						which,
						gt(reading.id, after)
					)
				)
				.orderBy(reading.id)
				.limit(AT_ONCE);
			if (!due.length) break;
			after = due.at(-1)!.id;
			await transaction(async (db) => {
				const some = await standing(
					db,
					inArray(
						reading.id,
						due.map((r) => r.id)
					)
				);
				const { ids } = await revise(db, some, asBefore, BY_VERSION);
				changed += ids.length;
				await touch(db, [...new Set(some.map((r) => r.systemId))]);
			});
		}
	return changed;
}

type Standing = Awaited<ReturnType<typeof standing>>[number];

/** Readings as they stand, with all their newest revision says, held until the end of the transaction. */
const standing = (db: Connection, condition: SQL) =>
	db
		.select({
			id: reading.id,
			systemId: reading.systemId,
			parameter: reading.parameter,
			revision: reading.revision,
			raw: rawAsTagged,
			sampleSize: revision.sampleSize,
			takenAwayId: revision.takenAwayId,
			takenAt: revision.takenAt,
			voided: revision.voided,
			methodVersionId: revision.methodVersionId,
			byUserId: revision.byUserId,
			attributedTo: revision.attributedTo,
			result: revision.result,
			profile: methodVersion.profile
		})
		.from(reading)
		.innerJoin(revision, and(eq(revision.readingId, reading.id), eq(revision.revision, reading.revision)))
		.innerJoin(methodVersion, eq(methodVersion.id, revision.methodVersionId))
		.where(condition)
		.for('update');

/** What nobody can read any more keeps what it said: no start and no chart fails by one old row. */
function readAgain(kit: Method, { raw, sampleSize }: Standing, other: Other): ReturnType<typeof read> {
	try {
		return read(readingRequest(kit, raw, { sampleSize: sampleSize ?? undefined, other }));
	} catch {
		return bad('/reading', 'is kept in a form that cannot be read');
	}
}
type Other = NonNullable<Parameters<typeof readingRequest>[2]>['other'];

interface By {
	kit: Method;
	versionId: string;
	/** Who has it computed, and who that was where it is nobody here. */
	byUserId: string;
	attributedTo?: string | null;
}
const asBefore = ({ profile, methodVersionId, byUserId, attributedTo }: Standing): By => ({
	kit: profile,
	versionId: methodVersionId,
	byUserId,
	attributedTo
});

/** Far below what any kit tells apart. */
const SAME = 1e-9;
const same = (a: number | null, b: number | null): boolean =>
	a === b || (a !== null && b !== null && Math.abs(a - b) <= SAME * Math.max(Math.abs(a), Math.abs(b)));
const saysTheSame = (a: Measured, b: Measured): boolean =>
	a.qualifier === b.qualifier &&
	a.unit === b.unit &&
	[a.value, a.standardUncertainty, a.repeatability, ...a.interval].every((x, i) =>
		same(x, [b.value, b.standardUncertainty, b.repeatability, ...b.interval][i]!)
	);

/** Another revision of each that can be read so, and says something else then; where it says the same by the same kit, that is noted. */
async function revise(
	db: Connection,
	found: Standing[],
	kitOf: (r: Standing) => By,
	reason: string
): Promise<{ ids: string[]; refused: string[] }> {
	const ids: string[] = [];
	const refused: string[] = [];
	for (let from = 0; from < found.length; from += AT_ONCE) {
		const some = found.slice(from, from + AT_ONCE);
		const others = some.flatMap((r) => r.takenAwayId ?? []);
		const taken = others.length ? await readings(db).where(inArray(reading.id, others)) : [];
		const otherOf = new Map(taken.map((row) => [row.id, toReading(row)]));
		const asItWas: Standing[] = [];
		const rows = some.flatMap((r) => {
			const { kit, versionId, byUserId, attributedTo = null } = kitOf(r);
			const other = r.takenAwayId === null ? undefined : otherOf.get(r.takenAwayId);
			const result = readAgain(kit, r, other);
			if (!result.ok) {
				refused.push(result.problems[0]?.message ?? '');
				return [];
			}
			if (versionId === r.methodVersionId && saysTheSame(result.value, r.result)) {
				asItWas.push({ ...r, result: result.value });
				return [];
			}
			return [
				revisionRow(r.parameter, {
					readingId: r.id,
					revision: r.revision + 1,
					byUserId,
					attributedTo,
					at: now(),
					methodVersionId: versionId,
					takenAt: r.takenAt ?? undefined,
					raw: r.raw,
					sampleSize: r.sampleSize ?? undefined,
					takenAwayId: r.takenAwayId ?? undefined,
					result: result.value,
					ownChart: readingCounts(kit, other),
					voided: r.voided,
					reason
				})
			];
		});
		for (const r of asItWas)
			await db
				.update(revision)
				.set({ result: r.result, calculation: READING_VERSION })
				.where(and(eq(revision.readingId, r.id), eq(revision.revision, r.revision)));
		if (!rows.length) continue;
		await writeRows(db, revision, rows);
		const written = rows.map((r) => r.readingId);
		await db
			.update(reading)
			.set({ revision: sql`${reading.revision} + 1` })
			.where(inArray(reading.id, written));
		ids.push(...written);
	}
	return { ids, refused };
}
