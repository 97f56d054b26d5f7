import { and, asc, desc, eq, gte, inArray, sql } from 'drizzle-orm';
import {
	compare,
	duplicatesOf,
	ownScatter,
	pairsOf,
	SAME_WATER,
	reference,
	scorecard,
	truenessOf,
	type KitReading,
	type ScorecardRequest
} from '../../../core/quality';
import { median } from '../../../core/statistics';
import { asProved, type Proved } from '../../../core/methods';
import { parameterOf } from '../../../core/quantities';
import type { Conduct } from '../../../core/run';
import type { WaterEvent } from '../../../core/trend';
import type { Proof, ProofQuery } from '../../api/proof';
import type { TankEvent } from '../../api/events';
import type { Reading } from '../../api/readings';
import { now } from '../clock';
import { database } from '../db/connection';
import { membership, method, methodVersion, pack, reading, revision, run } from '../db/schema';
import { SHORTLY, mayUse, ofPerson, ofTank, type Asker } from '../identity/asker';
import { eventsOfTank } from './events';
import { packsOf } from './packs';
import { idAsWritten, type StoredPoint } from './readings';
import { sourcesOf } from './systems';

/** So many of a parameter's newest readings say what a kit is worth now. */
const MOST = 2000;

interface Row extends KitReading {
	name: string;
	/** Whether a lab said it. */
	lab: boolean;
	conduct: Conduct[] | null;
}

/** What is known of the kits of one parameter from what was read with them in a tank and in the waters beside it. */
export async function proofOf(
	asker: Asker,
	systemId: string,
	{ of: parameter = 'alkalinity', ...asked }: ProofQuery = {}
): Promise<Proof> {
	await mayUse(asker, systemId, 'read');
	return ofPerson(
		asker,
		['proof', systemId, parameter, asked],
		() => makeProof(asker, systemId, parameter, asked),
		SHORTLY
	);
}

async function makeProof(
	asker: Asker,
	systemId: string,
	parameter: string,
	asked: { a?: string | undefined; b?: string | undefined }
): Promise<Proof> {
	const [sources, proved] = await Promise.all([sourcesOf(asker, systemId), provedKits(asker, systemId)]);
	const [rows, packs, events] = await Promise.all([
		rowsOf(
			sources.map((s) => s.id),
			parameter
		),
		packsOf(asker),
		eventsOfTank(asker, systemId)
	]);
	const unit = parameterOf(parameter)?.unit ?? '';
	const references = [...referencesOf(sources, parameter), ...labAnswers(rows)];
	const names = new Map(rows.map((r) => [r.methodId, r.name]));
	const opened = names.size ? await openedOf(systemId, [...names.keys()]) : new Map<string, number[]>();
	// Of each pack by itself: another bottle is another kit. The newest first.
	const checksOf = (id: string) =>
		spansOf(opened.get(id) ?? [])
			.flatMap((span) => checkOf(within(rows, span), id, references, parameter, unit, span) ?? [])
			.reverse();
	const checks = new Map([...names.keys()].map((id) => [id, checksOf(id)]));
	const cards = scorecard({
		methods: [...names.keys()].map((id): ScorecardRequest['methods'][number] => {
			const its = rows.filter((r) => r.methodId === id);
			const pack = packs.find((p) => p.methodId === id && p.price !== undefined);
			const bias = checks.get(id)?.[0]?.result.bias;
			return {
				id,
				times: its.flatMap(({ conduct }) => (conduct?.length ? [timesOf(conduct)] : [])),
				errors: its.map((r) => {
					const kit = proofFor(proved[parameter], id, r.at);
					return kit
						? (asProved({ ...r, qualifier: '=' as const, interval: [null, null] }, kit).standardUncertainty ??
								0)
						: r.standardUncertainty;
				}),
				duplicates: duplicatesOf(rows, id),
				...(pack?.price === undefined ? {} : { pack: { tests: pack.tests, price: pack.price } }),
				...(bias ? { bias } : {})
			};
		})
	});
	if (!cards.ok) throw new Error(JSON.stringify(cards.problems));
	const { methods, ...best } = cards.value;
	const taken = correctionsIn(events, parameter).map((w) => ({
		...w,
		until: untilOf(w, spansOf(opened.get(w.event.methodId) ?? [])),
		said: { id: w.id, at: w.at, takenOff: w.event.takenOff, standardUncertainty: w.event.standardUncertainty }
	}));
	return {
		parameter,
		unit,
		kits: methods
			.map((card) => ({
				id: card.id,
				name: names.get(card.id) ?? '',
				readings: rows.filter((r) => r.methodId === card.id).length,
				card,
				check: checks.get(card.id)?.[0] ?? null,
				earlierPacks: checks.get(card.id)?.slice(1) ?? [],
				taken: taken.find((w) => w.event.methodId === card.id && w.until > now().getTime())?.said ?? null
			}))
			.sort((a, b) => b.readings - a.readings),
		best,
		references,
		pair: pairOf(rows, [...names.keys()], asked)
	};
}

/** What was learnt of a kit: of a pack of it, from checks, or by its keeper's word; and what repeats scatter by. */
export interface ProvedKit extends Proved {
	methodId: string;
	/** When it was last checked, or its keeper's word; of repeats, when the newest was read. */
	checkedAt: string;
	/** What it holds for: readings from when to when, ms. */
	from: number;
	until: number;
}
/** A check speaks of the kit until the next is due, every few months, ms. */
const HOLDS = 120 * 86_400_000;

/** The kits of a tank that were proved, by parameter, a keeper's word first; whoever asks has been let in. */
export const provedKits = (asker: Asker, systemId: string): Promise<Record<string, ProvedKit[]>> =>
	ofTank(
		asker,
		systemId,
		['proved kits'],
		async () => {
			const [sources, events] = await Promise.all([
				sourcesOf(asker, systemId),
				eventsOfTank(asker, systemId)
			]);
			const proved: Record<string, ProvedKit[]> = {};
			const checked = sources.flatMap((s) => Object.keys(s.content?.values ?? {}));
			const [byLab, scatters] = await Promise.all([parametersOfLabs(systemId), scattersOf(systemId)]);
			const said = correctionsIn(events).map((w) => w.event.parameter);
			for (const parameter of new Set([...checked, ...byLab, ...said])) {
				const known = referencesOf(sources, parameter);
				// A lab speaks of the tank's own water.
				const tank = byLab.has(parameter) ? sources.filter((s) => s.kind === 'tank') : [];
				const waters = new Set([...known, ...tank].map((s) => s.id));
				const rows = await rowsOf([...waters], parameter);
				const references = [...known, ...labAnswers(rows)];
				const its = correctionsIn(events, parameter);
				const kits = [...new Set([...rows.map((r) => r.methodId), ...its.map((w) => w.event.methodId)])];
				const packs = kits.length ? await openedOf(systemId, kits) : new Map<string, number[]>();
				proved[parameter] = kits.flatMap((methodId) => {
					const spans = spansOf(packs.get(methodId) ?? []);
					return [
						...its.filter((w) => w.event.methodId === methodId).flatMap((w) => bySayingSo(w, spans)),
						...spans.flatMap((span) => byChecks(rows, methodId, references, parameter, span))
					];
				});
			}
			for (const { parameter, ...kit } of scatters) proved[parameter] = [...(proved[parameter] ?? []), kit];
			return proved;
		},
		SHORTLY
	);

/** Repeats of one water by one kit in the evenings of a year: what one test scatters by in these hands, whatever the pack. */
const HANDS = 365 * 86_400_000;
async function scattersOf(systemId: string): Promise<(ProvedKit & { parameter: string })[]> {
	const found = await database()
		.select({
			id: sql<string>`straight_join ${reading.id}`,
			parameter: reading.parameter,
			methodId: methodVersion.methodId,
			sourceId: reading.sourceId,
			takenAt: reading.takenAt,
			value: revision.value,
			standardUncertainty: revision.standardUncertainty,
			repeatability: revision.repeatability
		})
		.from(run, { forceIndex: 'run_of_system' })
		.innerJoin(reading, eq(reading.runId, run.id))
		.innerJoin(revision, and(eq(revision.readingId, reading.id), eq(revision.revision, reading.revision)))
		.innerJoin(methodVersion, eq(methodVersion.id, revision.methodVersionId))
		.where(
			and(
				eq(run.systemId, systemId),
				gte(run.startedAt, new Date(now().getTime() - HANDS)),
				eq(revision.voided, false),
				eq(revision.ownChart, true),
				eq(revision.qualifier, '=')
			)
		);
	const rows = found.flatMap(({ takenAt, value, standardUncertainty, repeatability, ...row }) =>
		value === null || !standardUncertainty || !repeatability
			? []
			: [{ ...row, at: takenAt.getTime(), value, standardUncertainty, repeatability }]
	);
	return [...new Map(rows.map((r) => [r.methodId, r.parameter]))].flatMap(([methodId, parameter]) => {
		const scatter = ownScatter(duplicatesOf(rows, methodId));
		const last = Math.max(...rows.filter((r) => r.methodId === methodId).map((r) => r.at));
		const always = { from: -Infinity, until: Infinity, checkedAt: new Date(last).toISOString() };
		return scatter ? [{ parameter, methodId, scatter, ...always }] : [];
	});
}

/** A pack's time: from its opening to the next, ms. What was read before any is of one that nobody wrote down. */
interface Span {
	from: number;
	until: number;
}
const spansOf = (opened: number[]): Span[] =>
	[-Infinity, ...opened].map((from, i) => ({ from, until: opened[i] ?? Infinity }));

const within = (rows: Row[], { from, until }: Span): Row[] =>
	rows.filter((r) => r.at >= from && r.at < until);

/** What checks within a pack's time have taught; a verdict that is none narrows nothing. */
function byChecks(
	rows: Row[],
	methodId: string,
	references: Proof['references'],
	parameter: string,
	span: Span
): ProvedKit[] {
	const { from, until } = span;
	const unit = parameterOf(parameter)?.unit ?? '';
	const check = checkOf(within(rows, span), methodId, references, parameter, unit, span);
	if (!check?.result.trueness || check.result.verdict === 'unsure') return [];
	return [
		{
			methodId,
			trueness: check.result.trueness.after,
			by: check.source,
			checkedAt: check.last,
			from: Math.max(from, Date.parse(check.first) - HOLDS),
			until: Math.min(until, Date.parse(check.last) + HOLDS)
		}
	];
}

/** A keeper's word that a bias is taken off. */
interface Correction extends TankEvent {
	event: Extract<WaterEvent, { kind: 'correction' }>;
}
/** The newest first: it is the one that holds. */
const correctionsIn = (events: TankEvent[], parameter?: string): Correction[] =>
	events
		.filter((e): e is Correction => e.event.kind === 'correction')
		.filter((e) => parameter === undefined || e.event.parameter === parameter)
		.reverse();
/** It holds from its moment to the next pack, ms. */
const untilOf = ({ at }: Correction, spans: Span[]): number =>
	spans.find((s) => Date.parse(at) < s.until)?.until ?? Infinity;

function bySayingSo(word: Correction, spans: Span[]): ProvedKit[] {
	const { methodId, takenOff, standardUncertainty: trueness, by } = word.event;
	const from = Date.parse(word.at);
	return [{ methodId, trueness, takenOff, by, checkedAt: word.at, from, until: untilOf(word, spans) }];
}

/** When each of some kits' packs were opened by the tank's members, ms, in their order. */
async function openedOf(systemId: string, methodIds: string[]): Promise<Map<string, number[]>> {
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

/** What was learnt of the kit a reading was made with, for its moment: by check or word, and by repeats. */
export function proofFor(
	proved: ProvedKit[] | undefined,
	methodId: string,
	at: number
): ProvedKit | undefined {
	const its = proved?.filter((k) => k.methodId === methodId && at >= k.from && at < k.until) ?? [];
	const scatter = its.find((k) => k.scatter)?.scatter;
	const known = its.find((k) => !k.scatter) ?? its[0];
	return known && scatter ? { ...known, scatter } : known;
}

const saidOf = ({ trueness, takenOff, by, scatter }: ProvedKit): Proved => ({
	...(trueness === undefined ? {} : { trueness }),
	...(takenOff === undefined ? {} : { takenOff }),
	...(by === undefined ? {} : { by }),
	...(scatter ? { scatter } : {})
});

/** What was learnt of each kit that is good now, by its id: the bench reads by it. */
export async function provedNow(asker: Asker, systemId: string): Promise<Record<string, Proved>> {
	const proved = Object.values(await provedKits(asker, systemId)).flat();
	const at = now().getTime();
	return Object.fromEntries(
		proved.flatMap(({ methodId }) => {
			const kit = proofFor(proved, methodId, at);
			return kit ? [[methodId, saidOf(kit)]] : [];
		})
	);
}

/** Readings as they stand now: what was kept is what was read, and what is known of its kit is known of all it read. */
export const readingsAsProved = <T extends Omit<Reading, 'proof'>>(
	readings: T[],
	proved: Record<string, ProvedKit[]>
): (T & Pick<Reading, 'proof'>)[] =>
	readings.map((r) => {
		const kit = proofFor(proved[r.parameter], r.methodId, Date.parse(r.takenAt));
		const now = kit && asProved(r, kit);
		return !kit || !now || now === r
			? { ...r, proof: null }
			: { ...now, proof: { ...saidOf(kit), at: kit.checkedAt } };
	});

/** The same of points. */
export const pointsAsProved = (points: StoredPoint[], proved: ProvedKit[] | undefined): StoredPoint[] =>
	!proved?.length
		? points
		: points.map((p) => {
				const kit = proofFor(proved, p.methodId, p.at);
				if (!kit) return p;
				const { interval, ...now } = asProved({ ...p, interval: [p.low, p.high] }, kit);
				return { ...now, low: interval[0], high: interval[1] };
			});

const referencesOf = (
	sources: Awaited<ReturnType<typeof sourcesOf>>,
	parameter: string
): Proof['references'] =>
	sources.flatMap(({ id, name, content }) => {
		const its = content?.values[parameter];
		return its ? [{ id, name, ...its, until: content.until ?? null, drawn: null }] : [];
	});

const isLab = sql<boolean>`json_value(${methodVersion.profile}, '$.display.form') = 'lab'`.mapWith(Boolean);

/** What labs measure for the members of a tank. */
async function parametersOfLabs(systemId: string): Promise<Set<string>> {
	const rows = await database()
		.selectDistinct({ parameter: method.parameter })
		.from(membership)
		.innerJoin(method, eq(method.ownerId, membership.userId))
		.innerJoin(methodVersion, eq(methodVersion.methodId, method.id))
		.where(and(eq(membership.systemId, systemId), isLab));
	return new Set(rows.map((r) => r.parameter));
}

/** A lab's answer is what the water had when it was drawn: kits that tested it within a few hours are held against it. */
const labAnswers = (rows: Row[]): Known[] =>
	rows
		.filter((r) => r.lab)
		.map((r) => ({
			id: r.sourceId,
			name: r.name.split(', ').slice(1).join(', '),
			value: r.value,
			standardUncertainty: r.standardUncertainty,
			until: null,
			drawn: new Date(r.at).toISOString()
		}));
type Known = Proof['references'][number];

/**
 * The newest readings of a parameter that count, of some waters: values only, a bound says nothing of its kit. First which ones, by the index
 * in order of time, then all about them: in one query the database begins at the wrong end of a long book.
 */
async function rowsOf(sources: string[], parameter: string): Promise<Row[]> {
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
			sourceId: reading.sourceId,
			takenAt: reading.takenAt,
			conduct: reading.conduct,
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
		({ id: _id, takenAt, qualifier, value, standardUncertainty, repeatability, ...row }): Row[] =>
			qualifier !== '=' || value === null || !standardUncertainty || !repeatability
				? []
				: [{ ...row, at: takenAt.getTime(), value, standardUncertainty, repeatability }]
	);
}

/** Against the reference a kit was last checked with. */
function checkOf(
	rows: Row[],
	kit: string,
	references: Proof['references'],
	parameter: string,
	unit: string,
	pack: Span
): Proof['kits'][number]['check'] {
	const its = rows.filter((r) => r.methodId === kit);
	const isGood = (r: Row, known: Known) =>
		known.id === r.sourceId &&
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
			repeatability: r.repeatability
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

/** Seconds of hands, and of waiting between them, of one time at the bench. */
function timesOf(conduct: Conduct[]): { hands: number; wait: number } {
	const ms = (moment: string | undefined) => Date.parse(moment ?? '');
	const hands = conduct.reduce((sum, step) => sum + Math.max(0, ms(step.end) - ms(step.start)), 0) / 1000;
	const all = (ms(conduct.at(-1)?.end) - ms(conduct[0]?.start)) / 1000;
	return { hands, wait: Math.max(0, all - hands) };
}

/** Two kits on the same water: those asked for, or those most often so. */
function pairOf(
	rows: Row[],
	kits: string[],
	asked: { a?: string | undefined; b?: string | undefined }
): Proof['pair'] {
	const { a, b } = asked;
	const known = (id: string | undefined): id is string => id !== undefined && kits.includes(id);
	const choices =
		known(a) && known(b) && a !== b
			? [[a, b] as const]
			: kits.flatMap((one, i) => kits.slice(i + 1).map((other) => [one, other] as const));
	const counted = choices
		.map(([one, other]) => ({ a: one, b: other, pairs: pairsOf(rows, one, other) }))
		.sort((x, y) => y.pairs.length - x.pairs.length)[0];
	if (!counted) return null;
	const { pairs } = counted;
	const made = pairs.length
		? compare({ pairs: pairs.slice(-MOST_PAIRS).map(({ sourceId: _source, ...pair }) => pair) })
		: null;
	return {
		a: counted.a,
		b: counted.b,
		points: pairs.map((p) => ({ at: p.at ?? '', a: p.a.value, b: p.b.value })),
		result: made?.ok ? made.value : null
	};
}
/** Of two kits the newest pairs count. */
const MOST_PAIRS = 100;
