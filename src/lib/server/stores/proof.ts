import { and, desc, eq, inArray } from 'drizzle-orm';
import {
	compare,
	duplicatesOf,
	pairsOf,
	reference,
	scorecard,
	truenessOf,
	type KitReading,
	type ScorecardRequest
} from '../../../core/quality';
import { median } from '../../../core/statistics';
import { parameterOf } from '../../../core/quantities';
import type { Conduct } from '../../../core/run';
import type { Proof, ProofQuery } from '../../api/proof';
import { now } from '../clock';
import { database } from '../db/connection';
import { methodVersion, reading, revision } from '../db/schema';
import { SHORTLY, mayUse, ofPerson, ofTank, type Asker } from '../identity/asker';
import { packsOf } from './packs';
import { sourcesOf } from './systems';

/** So many of a parameter's newest readings say what a kit is worth now. */
const MOST = 2000;

interface Row extends KitReading {
	name: string;
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
	const [rows, sources, packs] = await Promise.all([
		rowsOf(systemId, parameter),
		sourcesOf(asker, systemId),
		packsOf(asker)
	]);
	const unit = parameterOf(parameter)?.unit ?? '';
	const references = referencesOf(sources, parameter);
	const names = new Map(rows.map((r) => [r.methodId, r.name]));
	const checks = new Map([...names.keys()].map((id) => [id, checkOf(rows, id, references, parameter, unit)]));
	const cards = scorecard({
		methods: [...names.keys()].map((id): ScorecardRequest['methods'][number] => {
			const its = rows.filter((r) => r.methodId === id);
			const pack = packs.find((p) => p.methodId === id && p.price !== undefined);
			const bias = checks.get(id)?.result.bias;
			return {
				id,
				times: its.flatMap(({ conduct }) => (conduct?.length ? [timesOf(conduct)] : [])),
				errors: its.map((r) => r.standardUncertainty),
				duplicates: duplicatesOf(rows, id),
				...(pack?.price === undefined ? {} : { pack: { tests: pack.tests, price: pack.price } }),
				...(bias ? { bias } : {})
			};
		})
	});
	if (!cards.ok) throw new Error(JSON.stringify(cards.problems));
	const { methods, ...best } = cards.value;
	return {
		parameter,
		unit,
		kits: methods
			.map((card) => ({
				id: card.id,
				name: names.get(card.id) ?? '',
				readings: rows.filter((r) => r.methodId === card.id).length,
				card,
				check: checks.get(card.id) ?? null
			}))
			.sort((a, b) => b.readings - a.readings),
		best,
		references,
		pair: pairOf(rows, [...names.keys()], asked)
	};
}

/** A kit that was checked against water whose content is known, and what it may be off by since, as a standard uncertainty. */
export interface ProvedKit {
	methodId: string;
	trueness: number;
}
/** A check speaks of the kit until the next is due, every few months, ms. */
const HOLDS = 120 * 86_400_000;

/** The kits of a tank that were proved, by parameter; whoever asks has been let in. */
export const provedKits = (asker: Asker, systemId: string): Promise<Record<string, ProvedKit[]>> =>
	ofTank(
		asker,
		systemId,
		['proved kits'],
		async () => {
			const sources = await sourcesOf(asker, systemId);
			const parameters = [...new Set(sources.flatMap((s) => Object.keys(s.content?.values ?? {})))];
			const proved: Record<string, ProvedKit[]> = {};
			for (const parameter of parameters) {
				const references = referencesOf(sources, parameter);
				const rows = await rowsOf(
					systemId,
					parameter,
					references.map((r) => r.id)
				);
				proved[parameter] = [...new Set(rows.map((r) => r.methodId))].flatMap((methodId): ProvedKit[] => {
					const check = checkOf(rows, methodId, references, parameter, parameterOf(parameter)?.unit ?? '');
					const fresh = check && Date.parse(check.last) >= now().getTime() - HOLDS;
					return fresh && check.result.trueness && check.result.verdict !== 'unsure'
						? [{ methodId, trueness: check.result.trueness.after }]
						: [];
				});
			}
			return proved;
		},
		SHORTLY
	);

/** Readings with what a check has taught of their kits: what stays with a kit is what is known of it now. */
export const withProof = <
	T extends {
		methodId: string;
		value: number | null;
		standardUncertainty: number | null;
		repeatability: number | null;
	}
>(
	readings: T[],
	proved: ProvedKit[] = []
): T[] =>
	!proved.length
		? readings
		: readings.map((r) => {
				const kit = proved.find((k) => k.methodId === r.methodId);
				return kit && r.value !== null && r.standardUncertainty && r.repeatability
					? { ...r, standardUncertainty: Math.hypot(r.repeatability, kit.trueness) }
					: r;
			});

const referencesOf = (
	sources: Awaited<ReturnType<typeof sourcesOf>>,
	parameter: string
): Proof['references'] =>
	sources.flatMap(({ id, name, content }) => {
		const its = content?.values[parameter];
		return its ? [{ id, name, ...its, until: content.until ?? null }] : [];
	});

/** The newest readings of a parameter that count, in every water of the tank or in some: values only, a bound says nothing of its kit. */
async function rowsOf(systemId: string, parameter: string, sources?: string[]): Promise<Row[]> {
	const found = await database()
		.select({
			methodId: methodVersion.methodId,
			name: methodVersion.name,
			sourceId: reading.sourceId,
			takenAt: reading.takenAt,
			conduct: reading.conduct,
			value: revision.value,
			standardUncertainty: revision.standardUncertainty,
			repeatability: revision.repeatability,
			qualifier: revision.qualifier
		})
		.from(reading)
		.innerJoin(revision, and(eq(revision.readingId, reading.id), eq(revision.revision, reading.revision)))
		.innerJoin(methodVersion, eq(methodVersion.id, revision.methodVersionId))
		.where(
			and(
				eq(reading.systemId, systemId),
				eq(reading.parameter, parameter),
				eq(revision.voided, false),
				eq(revision.ownChart, true),
				...(sources ? [inArray(reading.sourceId, sources)] : [])
			)
		)
		.orderBy(desc(reading.takenAt), desc(reading.id))
		.limit(MOST);
	return found.flatMap(({ takenAt, qualifier, value, standardUncertainty, repeatability, ...row }): Row[] =>
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
	unit: string
): Proof['kits'][number]['check'] {
	const its = rows.filter((r) => r.methodId === kit);
	// What is past its date is no reference any more.
	const isGood = (r: Row, known: Proof['references'][number]) =>
		known.id === r.sourceId &&
		(known.until === null || new Date(r.at).toISOString().slice(0, 10) <= known.until);
	const last = its.find((r) => references.some((known) => isGood(r, known)));
	const known = last && references.find((r) => r.id === last.sourceId);
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
