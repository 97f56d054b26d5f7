import { isSolute } from '../../../core/catalogue';
import { and, desc, eq } from 'drizzle-orm';
import { waters, type WatersRequest } from '../../../core/quality';
import type { WatersBeside, WatersQuery } from '../../api/waters';
import { database } from '../db/connection';
import { methodVersion, reading, revision } from '../db/schema';
import { mayUse, ofTank, type Asker } from '../identity/asker';
import { provedKits, readingsAsProved, type ProvedKit } from '../stores/checks';
import { columns, toReading } from '../stores/readings';
import { sourcesOf } from '../stores/systems';
import { refuse } from '../refuse';

/** So many of a water's newest readings are looked through for the newest of each level. */
const MOST = 400;

/** What was read last of two waters of a tank, or of one beside reference sea water. Refuses (404) a water that is not this tank's. */
export async function watersOf(asker: Asker, systemId: string, { a, b }: WatersQuery): Promise<WatersBeside> {
	await mayUse(asker, systemId, 'read');
	const sources = await sourcesOf(asker, systemId);
	const own = sources.find((s) => s.kind === 'tank');
	const one = a ?? own?.id ?? '';
	for (const id of [one, ...(b ? [b] : [])])
		if (!sources.some((s) => s.id === id)) refuse(404, 'There is no such water here.');
	return ofTank(asker, systemId, ['waters', one, b ?? null], async () => {
		const proved = await provedKits(asker, systemId);
		const [first, second] = await Promise.all([newestOf(one, proved), b ? newestOf(b, proved) : undefined]);
		const made = Object.keys(first.levels).length
			? waters({ a: first.levels, ...(second ? { b: second.levels } : {}) })
			: undefined;
		return {
			sources: sources.map(({ id, kind, name }) => ({ id, kind, name })),
			a: one,
			b: b ?? null,
			readAt: { a: first.at, b: second?.at ?? null },
			result: made?.ok ? made.value : null
		};
	});
}

/** The newest value of each level of a water, by charts that count, as it is known now; and the moment of the newest of them. */
async function newestOf(
	sourceId: string,
	proved: Record<string, ProvedKit[]>
): Promise<{ levels: WatersRequest['a']; at: string | null }> {
	const rows = await database()
		.select(columns)
		.from(reading)
		.innerJoin(revision, and(eq(revision.readingId, reading.id), eq(revision.revision, reading.revision)))
		.innerJoin(methodVersion, eq(methodVersion.id, revision.methodVersionId))
		.where(and(eq(reading.sourceId, sourceId), eq(revision.voided, false), eq(revision.ownChart, true)))
		.orderBy(desc(reading.takenAt), desc(reading.id))
		.limit(MOST);
	const levels: WatersRequest['a'] = {};
	for (const r of readingsAsProved(rows.map(toReading), proved))
		if (r.qualifier === '=' && r.value !== null && r.standardUncertainty && isSolute(r.parameter))
			levels[r.parameter] ??= { value: r.value, standardUncertainty: r.standardUncertainty };
	return { levels, at: rows[0]?.takenAt.toISOString() ?? null };
}
