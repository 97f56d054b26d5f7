import { and, asc, desc, eq, inArray, sql } from 'drizzle-orm';
import {
	SAME_WATER,
	readsBy,
	reference,
	truenessOf,
	type KitReading,
	type ReadsBy
} from '../../../../core/quality';
import { instrumentOf, type RawReading, type ShadeByEye } from '../../../../core/instruments';
import type { Conduct } from '../../../../core/run';
import { median } from '../../../../core/statistics';
import type { WaterEvent } from '../../../../core/trend';
import type { TankEvent } from '../../../api/events';
import type { Check, KitChecks } from '../../../api/kit-checks';
import { database } from '../../db/connection';
import { membership, method, methodVersion, pack, reading, revision } from '../../db/schema';
import { idAsWritten, rawAsTagged } from '../../db/joined';
import type { sourcesOf } from '../systems';

// What kits read of waters that are known, pack by pack: evidence, as it was read.

/** So many of a parameter's newest readings say what a kit is worth now. */
const MOST = 2000;

export interface Row extends KitReading {
	name: string;
	/** Whether a lab said it. */
	lab: boolean;
	/** Of an instrument for salinity. */
	readsBy?: ReadsBy | undefined;
	conduct: Conduct[] | null;
	/** What a photograph and an eye each said of the same vial, in the parameter's unit. */
	seen?: { camera: number; eye: number } | undefined;
}

export const referencesOf = (
	sources: Awaited<ReturnType<typeof sourcesOf>>,
	parameter: string
): KitChecks['references'] =>
	sources.flatMap(({ id, name, content }) => {
		const its = content?.values[parameter];
		return its
			? [{ id, name, ...its, until: content.until ?? null, readsBy: content.readsBy, drawn: null }]
			: [];
	});

const formOf = sql<string | null>`json_value(${methodVersion.profile}, '$.display.form')`;
const unitShown = sql<string | null>`json_value(${methodVersion.profile}, '$.display.unit')`;
export const isLab = sql<boolean>`json_value(${methodVersion.profile}, '$.display.form') = 'lab'`.mapWith(
	Boolean
);

/** A lab's method is called by its parameter and the lab. */
export const labOf = (methodName: string): string => methodName.split(', ').slice(1).join(', ');

/** What labs measure for the members of a tank. */
export async function parametersOfLabs(systemId: string): Promise<Set<string>> {
	const rows = await database()
		.selectDistinct({ parameter: method.parameter })
		.from(membership)
		.innerJoin(method, eq(method.ownerId, membership.userId))
		.innerJoin(methodVersion, eq(methodVersion.methodId, method.id))
		.where(and(eq(membership.systemId, systemId), isLab));
	return new Set(rows.map((r) => r.parameter));
}

/** A lab's answer is what the water had when it was drawn: kits that tested it within a few hours are held against it. */
export const labAnswers = (rows: Row[]): Known[] =>
	rows
		.filter((r) => r.lab)
		.map((r) => ({
			id: r.sourceId,
			name: labOf(r.name),
			value: r.value,
			standardUncertainty: r.standardUncertainty,
			until: null,
			drawn: new Date(r.at).toISOString()
		}));
export type Known = KitChecks['references'][number];

/**
 * The newest readings of a parameter that count, of some waters: values only, a bound says nothing of its kit. First which ones, by the index
 * in order of time, then all about them: in one query the database begins at the wrong end of a long book.
 */
export async function rowsOf(sources: string[], parameter: string): Promise<Row[]> {
	if (!sources.length) return [];
	const its = (sourceId: string) => sql`(
		select ${reading.id} from ${reading} force index (span_of_source)
		where ${reading.sourceId} = ${sourceId} and ${reading.parameter} = ${parameter}
		order by ${reading.takenAt} desc, ${reading.id} desc limit ${MOST})`;
	const found = await database()
		.select({
			id: idAsWritten,
			methodId: methodVersion.methodId,
			name: methodVersion.name,
			lab: isLab,
			form: formOf,
			unit: unitShown,
			sourceId: reading.sourceId,
			takenAt: reading.takenAt,
			conduct: reading.conduct,
			raw: rawAsTagged,
			value: revision.value,
			standardUncertainty: revision.standardUncertainty,
			repeatability: revision.repeatability,
			qualifier: revision.qualifier
		})
		.from(sql`(${sql.join(sources.map(its), sql` union all `)}) newest`)
		.innerJoin(reading, eq(reading.id, sql`newest.id`))
		.innerJoin(revision, and(eq(revision.readingId, reading.id), eq(revision.revision, reading.revision)))
		.innerJoin(methodVersion, eq(methodVersion.id, revision.methodVersionId))
		.where(and(eq(revision.voided, false), eq(revision.ownChart, true)))
		.orderBy(desc(reading.takenAt), desc(reading.id));
	return found.flatMap(
		({
			id: _id,
			takenAt,
			qualifier,
			value,
			standardUncertainty,
			repeatability,
			raw,
			form,
			unit,
			...row
		}): Row[] =>
			qualifier !== '=' || value === null || !standardUncertainty || !repeatability
				? []
				: [
						{
							...row,
							at: takenAt.getTime(),
							value,
							standardUncertainty,
							repeatability,
							// Shades and drops are steps; a plunger and a display have hardly any.
							quantisation: instrumentOf(raw).rounding === 'none' ? 0 : undefined,
							readsBy: readsBy(form, unit),
							seen: seenBoth(raw, value)
						}
					]
	);
}

/** What eye and photograph said, where both did: in the unit the kept place of the card has become. */
function seenBoth(raw: RawReading, value: number): Row['seen'] {
	if (raw.reads !== 'shades' || !('between' in raw)) return undefined;
	if (raw.position === undefined || !raw.camera || !raw.eye) return undefined;
	const on = ({ between: [low, high], position }: ShadeByEye) => low + position * (high - low);
	const kept = on({ between: raw.between, position: raw.position });
	return kept > 0
		? { camera: (value * on(raw.camera)) / kept, eye: (value * on(raw.eye)) / kept }
		: undefined;
}

/** A pack's time: from its opening to the next, ms. What was read before any is of one that nobody wrote down. */
export interface Span {
	from: number;
	until: number;
}
export const spansOf = (opened: number[]): Span[] =>
	[-Infinity, ...opened].map((from, i) => ({ from, until: opened[i] ?? Infinity }));

export const within = (rows: Row[], { from, until }: Span): Row[] =>
	rows.filter((r) => r.at >= from && r.at < until);

/** When each of some kits' packs were opened by the tank's members, ms, in their order. */
export async function openedOf(systemId: string, methodIds: string[]): Promise<Map<string, number[]>> {
	const rows = await database()
		.selectDistinct({ methodId: pack.methodId, opened: pack.opened })
		.from(pack)
		.innerJoin(membership, and(eq(membership.userId, pack.ownerId), eq(membership.systemId, systemId)))
		.where(inArray(pack.methodId, methodIds))
		.orderBy(asc(pack.opened));
	const opened = new Map<string, number[]>();
	for (const r of rows)
		opened.set(r.methodId, [...(opened.get(r.methodId) ?? []), Date.parse(`${r.opened}T00:00:00Z`)]);
	return opened;
}

/** A keeper's word that a bias is taken off. */
export interface Correction extends TankEvent {
	event: Extract<WaterEvent, { kind: 'correction' }>;
}
/** The newest first: it is the one that holds. */
export const correctionsIn = (events: TankEvent[], parameter?: string): Correction[] =>
	events
		.filter((e): e is Correction => e.event.kind === 'correction')
		.filter((e) => parameter === undefined || e.event.parameter === parameter)
		.reverse();
/** It holds from its moment to the next pack, ms. */
export const untilOf = ({ at }: Correction, spans: Span[]): number =>
	spans.find((s) => Date.parse(at) < s.until)?.until ?? Infinity;

/** Against the reference a kit was last checked with. */
export function checkOf(
	rows: Row[],
	kit: string,
	references: Known[],
	parameter: string,
	unit: string,
	pack: Span
): Check | null {
	const its = rows.filter((r) => r.methodId === kit);
	const isGood = (r: Row, known: Known) =>
		known.id === r.sourceId &&
		(known.readsBy === undefined || known.readsBy === r.readsBy) &&
		(known.drawn === null
			? // What is past its date is no reference any more.
				known.until === null || new Date(r.at).toISOString().slice(0, 10) <= known.until
			: !r.lab && Math.abs(r.at - Date.parse(known.drawn)) <= SAME_WATER);
	const last = its.find((r) => references.some((known) => isGood(r, known)));
	const known = last && references.find((k) => isGood(last, k));
	if (!known) return null;
	const tests = its.filter((r) => isGood(r, known));
	const { value, standardUncertainty } = known;
	const made = reference({
		reference: { parameter, unit, value, standardUncertainty },
		tests: tests.map((r) => ({
			at: new Date(r.at).toISOString(),
			value: r.value,
			repeatability: r.repeatability,
			...(r.quantisation === undefined ? {} : { quantisation: r.quantisation })
		})),
		prior: { trueness: Math.max(median(tests.map(truenessOf)), LEAST_TRUENESS * last.standardUncertainty) }
	});
	if (!made.ok) throw new Error(JSON.stringify(made.problems));
	return {
		source: known.name,
		until: known.until,
		packOpened: Number.isFinite(pack.from) ? new Date(pack.from).toISOString() : null,
		first: new Date(Math.min(...tests.map((r) => r.at))).toISOString(),
		last: new Date(last.at).toISOString(),
		tests: tests.length,
		result: made.value
	};
}
/** No kit is without an error of its own: at least this share of all of it. */
const LEAST_TRUENESS = 0.1;
