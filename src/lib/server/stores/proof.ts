import { and, desc, eq } from 'drizzle-orm';
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
import { database } from '../db/connection';
import { methodVersion, reading, revision } from '../db/schema';
import { SHORTLY, mayUse, ofPerson, type Asker } from '../identity/asker';
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
	const references = sources.flatMap(({ id, name, content }) => {
		const its = content?.values[parameter];
		return its ? [{ id, name, ...its, until: content.until ?? null }] : [];
	});
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

/** The newest readings of a parameter that count, in every water of the tank: values only, a bound says nothing of its kit. */
async function rowsOf(systemId: string, parameter: string): Promise<Row[]> {
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
				eq(revision.ownChart, true)
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
	const last = its.find((r) => references.some((known) => known.id === r.sourceId));
	const known = last && references.find((r) => r.id === last.sourceId);
	if (!known) return null;
	const tests = its.filter((r) => r.sourceId === known.id);
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
