import { asProved } from '../../../core/methods';
import { compare, duplicatesOf, pairsOf, scorecard, type ScorecardRequest } from '../../../core/quality';
import { parameterOf } from '../../../core/catalogue';
import type { Conduct } from '../../../core/run';
import type { KitChecks, KitChecksQuery } from '../../api/kit-checks';
import { now } from '../clock';
import { SHORTLY, mayUse, ofPerson, type Asker } from '../identity/asker';
import { eventsOfTank } from '../stores/events';
import { packsOf } from '../stores/packs';
import { sourcesOf } from '../stores/systems';
import {
	checkOf,
	correctionsIn,
	labAnswers,
	openedOf,
	referencesOf,
	rowsOf,
	spansOf,
	untilOf,
	within,
	type Row
} from '../stores/checks';
import { provedFor, provedKits } from '../stores/checks';

/** What is known of the kits of one parameter from what was read with them in a tank and in the waters beside it. */
export async function kitChecksOf(
	asker: Asker,
	systemId: string,
	{ of: parameter = 'alkalinity', ...asked }: KitChecksQuery = {}
): Promise<KitChecks> {
	await mayUse(asker, systemId, 'read');
	return ofPerson(
		asker,
		['proof', systemId, parameter, asked],
		() => makeKitChecks(asker, systemId, parameter, asked),
		SHORTLY
	);
}

async function makeKitChecks(
	asker: Asker,
	systemId: string,
	parameter: string,
	asked: { a?: string | undefined; b?: string | undefined }
): Promise<KitChecks> {
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
					const kit = provedFor(proved[parameter], id, r.at);
					return kit
						? (asProved({ ...r, qualifier: '=' as const, interval: [null, null] }, kit).standardUncertainty ??
								0)
						: r.standardUncertainty;
				}),
				duplicates: duplicatesOf(rows, id),
				...(pack?.price === undefined ? {} : { pack: { tests: pack.tests, price: pack.price } }),
				...(bias ? { bias } : {}),
				seen: its.flatMap(({ seen, sourceId }) => {
					const known = seen && references.find((r) => r.id === sourceId && r.drawn === null);
					return known ? [{ truth: known.value, ...seen }] : [];
				})
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
): KitChecks['pair'] {
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
